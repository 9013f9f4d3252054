import { Dice } from '../generated-site.js';
import { PictureBox, prose, word, type Master, type SiteFiles } from './pictures.js';

/** A block of a page, and what it asks of the style sheet and of the page's script. */
interface Block {
  html: string;
  css?: string;
  script?: string;
}

/** What kits of blocks and image components write into built pages. */
class BlockKits {
  readonly box: PictureBox;
  #count = 0;

  constructor(readonly dice: Dice) {
    this.box = new PictureBox(dice);
  }

  #name(): string {
    const { dice } = this;
    return `${dice.of([`IMG_${dice.between(1000, 9999)}`, word(dice), `${word(dice)}_${word(dice)}`])}-${this.#count++}`;
  }

  /** A photograph at several widths, as an entry of srcset each. */
  async #ladder(
    folder: string,
    widths: readonly number[],
    ratio: number,
    format = 'jpg',
  ): Promise<{ entries: string[]; last: string; master: Master }> {
    const widest = Math.max(...widths);
    const master = await this.box.photograph(widest, Math.round(widest / ratio));
    const name = this.#name();
    const entries: string[] = [];
    for (const width of widths) {
      const path = `${folder}/${name}-${width}x${Math.round(width / ratio)}.${format}`;
      await this.box.store(path, master, width, ratio);
      entries.push(`/${path} ${width}w`);
    }
    return { entries, last: entries.at(-1)?.split(' ')[0] ?? '', master };
  }

  async #single(folder: string, width: number, ratio: number): Promise<string> {
    const { last } = await this.#ladder(folder, [width], ratio);
    return last;
  }

  /** An editor's block: dimensions, a ladder, and `sizes` that know nothing of the column. */
  async editorBlock(): Promise<Block> {
    const { dice } = this;
    const ratio = dice.of([1.5, 4 / 3]);
    const { entries, last } = await this.#ladder('uploads', [300, 768, 1024, 1536], ratio);
    const align = dice.of(['', ' wide', ' full']);
    return {
      html: `<figure class="block-image${align}"><img decoding="async" ${dice.of(['loading="lazy"', ''])} width="1536" height="${Math.round(1536 / ratio)}" src="${last}" alt="" srcset="${entries.join(', ')}" sizes="(max-width: 1024px) 100vw, 1024px" /></figure>`,
      css: '.block-image img{height:auto;max-width:100%;vertical-align:bottom}.block-image{margin:0 0 1em}.wide{margin-inline:-4vw}.full{width:100vw;margin-left:calc(50% - 50vw)}',
    };
  }

  /** As wide as `sizes` says, up to the column. */
  async figure(): Promise<Block> {
    const { entries, last } = await this.#ladder('posts', [480, 800, 1200], 1.5);
    return {
      html: `<figure class="plain"><a href="${last}"><img loading="lazy" srcset="${entries.join(', ')}" sizes="(min-width: 768px) 720px, 100vw" src="${last}" alt=""></a></figure>`,
      css: '.plain img{max-width:100%;height:auto}',
    };
  }

  /** Fills a box that has a height. */
  async filled(): Promise<Block> {
    const { dice } = this;
    const { entries, last } = await this.#ladder('media', [640, 828, 1200, 1920], 1.5, 'webp');
    return {
      html: `<div style="position:relative;width:${dice.of(['100%', '50%', 'min(100%, 480px)'])};height:${dice.of([200, 320])}px"><img alt="" loading="lazy" sizes="100vw" srcSet="${entries.join(', ')}" src="${last}" style="position:absolute;height:100%;width:100%;inset:0;object-fit:cover"/></div>`,
    };
  }

  /** A component that keeps room by a sizer, shows a tiny picture first and fades the other in. */
  async fadedIn(): Promise<Block> {
    const { entries, last, master } = await this.#ladder('static', [200, 400, 800], 1.5, 'webp');
    await this.box.store('static/tiny.jpg', master, 20, 1.5);
    const tiny = Buffer.from(this.box.files['static/tiny.jpg'] ?? '').toString('base64');
    return {
      html: `<div class="faded"><div style="padding-top:66.6667%"></div><img aria-hidden="true" alt="" src="data:image/jpeg;base64,${tiny}"><img class="main" style="opacity:0" sizes="100vw" decoding="async" loading="lazy" src="${last}" srcset="${entries.join(', ')}" alt=""></div>`,
      css: '.faded{position:relative;overflow:hidden}.faded img{position:absolute;inset:0;width:100%;height:100%;object-fit:cover}.main{transition:opacity .25s linear}',
      script:
        "for (const image of document.querySelectorAll('.main')) { const show = () => { image.style.opacity = 1 }; if (image.complete) show(); else image.addEventListener('load', show) }",
    };
  }

  /** Slides that a timer shows one after the other. */
  async carousel(): Promise<Block> {
    const slides = [];
    for (let index = 0; index < 3; index++)
      slides.push(
        `<div class="item${index === 0 ? ' active' : ''}"><img src="${await this.#single('slides', 1920, 2.4)}" class="whole" alt="..."></div>`,
      );
    return {
      html: `<div class="carousel">${slides.join('')}</div>`,
      css: '.carousel{overflow:hidden}.item{display:none}.item.active{display:block}.whole{display:block;width:100%}',
      script:
        "for (const { children } of document.querySelectorAll('.carousel')) { let at = 0; setInterval(() => { children[at].classList.remove('active'); at = (at + 1) % children.length; children[at].classList.add('active') }, 4000) }",
    };
  }

  async cards(): Promise<Block> {
    const { dice } = this;
    const cards = [];
    for (let index = 0; index < 3; index++)
      cards.push(
        `<div class="column"><img class="card-top" src="${await this.#single('cards', 800, 1.5)}" alt=""${dice.of([' loading="lazy"', ''])}>${prose(dice, 9)}</div>`,
      );
    return {
      html: `<div class="row">${cards.join('')}</div>`,
      css: '.row{display:flex;flex-wrap:wrap;margin:0 -12px}.column{box-sizing:border-box;padding:0 12px;width:100%}@media(min-width:768px){.column{width:50%}}@media(min-width:992px){.column{width:33.3333%}}.card-top{width:100%}',
    };
  }

  /** The second picture comes with a hover. */
  async products(): Promise<Block> {
    const products = [];
    for (let index = 0; index < 2; index++) {
      const [front, back] = [
        await this.#ladder('shop', [165, 360, 533, 720], 0.8),
        await this.#ladder('shop', [165, 360, 533, 720], 0.8),
      ];
      const image = ({ entries, last }: typeof front, name: string) =>
        `<img class="${name}" srcset="${entries.join(',')}" src="${last}" sizes="(min-width: 990px) 25vw, 50vw" alt="">`;
      products.push(`<div class="product">${image(front, 'front')}${image(back, 'back')}</div>`);
    }
    return {
      html: `<div class="products">${products.join('')}</div>`,
      css: '.products{display:grid;grid-template-columns:repeat(2,1fr);gap:4px}.product{position:relative;padding-bottom:125%;overflow:hidden}.product img{position:absolute;inset:0;width:100%;height:100%;object-fit:cover}.back{opacity:0}.product:hover .back{opacity:1}',
    };
  }

  /** A drawing as manuals show them: at a share of the column. */
  async screenshot(): Promise<Block> {
    const { dice } = this;
    const path = `_images/${this.#name()}.png`;
    await this.box.store(path, await this.box.drawing(1280, 720));
    return {
      html: `<p><img src="/${path}" alt="${word(dice)}" style="${dice.of(['width: 50%;', 'width: 600px;', ''])}" /></p>`,
      css: 'p img{max-width:100%}',
    };
  }

  async closed(): Promise<Block> {
    return {
      html: `<details><summary>${word(this.dice)}</summary><img src="${await this.#single('more', 1200, 1.5)}" alt=""></details>`,
      css: 'details img{max-width:100%}',
    };
  }

  /** Asked for by a script, with the `sizes` that it measures. */
  async scripted(): Promise<Block> {
    const { entries, last } = await this.#ladder('lazy', [320, 640, 1024], 1.5);
    return {
      html: `<div class="later"><img class="lazyload" data-src="${last}" data-srcset="${entries.join(', ')}" alt="" width="1024" height="683"></div>`,
      css: '.later img{width:100%;height:auto}',
      script:
        "const seen = new IntersectionObserver((entries) => { for (const { isIntersecting, target } of entries) if (isIntersecting) { target.sizes = target.offsetWidth + 'px'; target.srcset = target.dataset.srcset; target.src = target.dataset.src; seen.unobserve(target) } }, { rootMargin: '400px' }); for (const image of document.querySelectorAll('.lazyload')) seen.observe(image)",
    };
  }

  block(): Promise<Block> {
    const kinds = [
      () => this.editorBlock(),
      () => this.figure(),
      () => this.filled(),
      () => this.fadedIn(),
      () => this.carousel(),
      () => this.cards(),
      () => this.products(),
      () => this.screenshot(),
      () => this.closed(),
      () => this.scripted(),
    ];
    return this.dice.of(kinds)();
  }
}

const columns = [
  'main{max-width:720px;margin:0 auto;padding:0 16px}',
  'main{max-width:1200px;margin:auto;padding:0 3%}',
  'main{padding:0 1rem}@media(min-width:1000px){main{width:calc(100% - 364px);padding:0 2rem}}',
];

/** A site as kits of blocks, image components and themes build them: none of them knows how wide the column is. */
export async function blockKits(seed: number): Promise<SiteFiles> {
  const dice = new Dice(seed);
  const kits = new BlockKits(dice);
  const bodies = new Map<string, string>();
  const [css, scripts] = [new Set<string>(), new Set<string>()];
  for (const path of ['index.html', 'about/index.html', 'posts/first.html']) {
    let body = '';
    for (let count = dice.between(4, 6); count > 0; count--) {
      const block = await kits.block();
      if (block.css) css.add(block.css);
      if (block.script) scripts.add(`(() => { ${block.script} })()`);
      body += `\n${block.html}\n${prose(dice, dice.between(8, 90))}`;
    }
    bodies.set(path, body);
  }
  const reset = dice.of(['img{max-width:100%}', 'img{max-width:100%;height:auto}', '']);
  kits.box.files['css/site.css'] =
    `${reset}body{margin:0;font:16px/1.6 sans-serif}${dice.of(columns)}\n${[...css].join('\n')}`;
  for (const [path, body] of bodies)
    kits.box.files[path] =
      `<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${word(dice)}</title><link rel="stylesheet" href="/css/site.css"></head><body><main>${body}</main><script>${[...scripts].join(';\n')}</script></body></html>`;
  return kits.box.files;
}
