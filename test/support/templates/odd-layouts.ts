import { Dice } from '../generated-site.js';
import { PictureBox, prose, word, type SiteFiles } from './pictures.js';

/** What an image may stand in. */
const surroundings = [
  '',
  'float:left',
  'float:right;margin:0 0 1em 1em',
  'display:inline-block',
  'display:inline-block;max-width:50%',
  'width:fit-content',
  'width:max-content;max-width:100%',
  'width:min-content',
  'display:flex',
  'display:flex;flex-wrap:wrap;gap:8px',
  'display:flex;align-items:center',
  'display:inline-flex',
  'display:grid',
  'display:grid;grid-template-columns:auto 1fr',
  'display:grid;grid-template-columns:minmax(0,1fr) auto',
  'display:grid;grid-template-columns:repeat(2,1fr);gap:10px',
  'display:table',
  'display:table-cell',
  'position:relative;height:200px',
  'width:33%',
  'width:50vw',
  'width:300px',
  'columns:2',
  'max-width:20em;margin:0 auto',
  'padding:5%',
  'text-align:center',
  'aspect-ratio:16/9;overflow:hidden',
  'height:180px;overflow:hidden',
  'transform:rotate(2deg)',
  'zoom:1.2',
  'writing-mode:vertical-rl;height:300px',
  'direction:rtl',
  'container-type:inline-size;width:60%',
  'overflow-x:auto;white-space:nowrap',
  'position:absolute;right:0;top:0;width:25%',
  'border:5px solid;box-sizing:content-box',
];

/** What a style may say of the image itself. */
const imageStyles = [
  '',
  '',
  'width:100%',
  'width:100%;height:auto',
  'max-width:100%',
  'max-width:100%;height:auto',
  'max-width:100%;max-height:200px',
  'height:100px',
  'height:100px;width:auto',
  'width:200px',
  'width:12em;height:auto',
  'width:50%',
  'width:100%;height:150px;object-fit:cover',
  'width:100%;height:150px;object-fit:contain',
  'width:100%;aspect-ratio:4/3;object-fit:cover',
  'aspect-ratio:1;width:150px',
  'max-height:40vh',
  'min-width:100px;max-width:240px',
  'flex:1;min-width:0',
  'flex:none;width:120px',
  'width:min(100%,300px)',
  'width:clamp(100px,30vw,260px);height:auto',
  'height:100%;width:100%;object-fit:cover',
  'display:block;margin:auto',
  'display:block;width:calc(100% - 40px)',
  'border:4px solid;padding:3px;max-width:100%',
  'float:left;width:40%',
  'vertical-align:middle;height:2em',
  'object-fit:scale-down;width:100%;height:120px',
  'inline-size:70%;block-size:auto',
  'position:absolute;inset:0;width:100%;height:100%;object-fit:cover',
  'max-width:none;width:auto',
  'width:10cqw',
  'border-radius:50%;width:80px;height:80px',
];

const sizesLists = ['100vw', '50vw', '(max-width:600px) 100vw, 50vw', '300px', 'auto', '33.3vw', ''];
const inlineStyles = [
  'width:60%',
  'max-width:150px',
  'height:auto',
  'border:1px solid red',
  'float:left',
  'float:right',
];

interface Stored {
  url: string;
  width: number;
  height: number;
  half: { url: string; width: number } | undefined;
}

class OddPages {
  readonly box: PictureBox;
  readonly rules: string[] = [];
  #count = 0;

  constructor(readonly dice: Dice) {
    this.box = new PictureBox(dice);
  }

  async #store(): Promise<Stored> {
    const { dice, box } = this;
    const width = dice.of([200, 400, 640, 900, 1200]);
    const height = Math.round(width / dice.of([1.5, 1, 0.75, 2]));
    const format = width > 640 ? dice.of(['jpg', 'webp']) : dice.of(['jpg', 'jpg', 'webp', 'png']);
    const master = await box.photograph(width, height);
    const path = `i/${++this.#count}`;
    await box.store(`${path}.${format}`, master);
    const url = `/${path}.${format}`;
    if (width <= 500) return { url, width, height, half: undefined };
    await box.store(`${path}-${width / 2}.${format}`, master, width / 2);
    return { url, width, height, half: { url: `/${path}-${width / 2}.${format}`, width: width / 2 } };
  }

  #addresses({ url, width, half }: Stored): string {
    const { dice } = this;
    const way = half ? dice.of(['plain', 'plain', 'widths', 'densities']) : 'plain';
    if (!half || way === 'plain') return `src="${url}"`;
    if (way === 'densities') return `src="${half.url}" srcset="${half.url} 1x, ${url} 2x"`;
    const sizes = dice.chance(0.8) ? ` sizes="${dice.of(sizesLists)}"` : '';
    return `src="${url}" srcset="${half.url} ${half.width}w, ${url} ${width}w"${sizes}`;
  }

  async #image(): Promise<string> {
    const { dice } = this;
    const stored = await this.#store();
    const { width, height } = stored;
    const sides = dice.of([
      '',
      '',
      ` width="${width}" height="${height}"`,
      ` width="${width}" height="${height}"`,
      ` width="${dice.of([width, 150, 300])}"`,
      ` height="${dice.of([80, 150])}"`,
      ` width="${width / 2}" height="${Math.round(height / 2)}"`,
      ' width="100" height="90"',
      ` width="${dice.of(['100%', '50%'])}"`,
      ' height="100%"',
    ]);
    const lazy = dice.chance(0.4) ? ' loading="lazy"' : '';
    const style = dice.chance(0.2) ? ` style="${dice.of(inlineStyles)}"` : '';
    const tag = `<img ${this.#addresses(stored)}${sides}${lazy}${style} alt="${dice.chance(0.8) ? word(dice) : ''}">`;
    if (dice.chance(0.2)) {
      const other = await this.#store();
      const media = dice.chance(0.5) ? ` media="(min-width:${dice.of([500, 800])}px)"` : '';
      const own = dice.chance(0.4) ? ` width="${other.width}" height="${other.height}"` : '';
      return `<picture><source${media} srcset="${other.url}"${own}>${tag}</picture>`;
    }
    if (dice.chance(0.2)) return `<a href="#">${tag}</a>`;
    return dice.chance(0.15) ? `<figure>${tag}<figcaption>${word(dice)}</figcaption></figure>` : tag;
  }

  async block(): Promise<string> {
    const { dice, rules } = this;
    const name = `b${rules.length}`;
    const narrow = dice.chance(0.3)
      ? `@media(max-width:${dice.of([500, 700, 900])}px){.${name} img{${dice.of(imageStyles)}}}`
      : '';
    rules.push(`.${name}{${dice.of(surroundings)}}.${name} img{${dice.of(imageStyles)}}${narrow}`);
    const images: string[] = [];
    const count = dice.chance(0.3) ? dice.between(2, 3) : 1;
    for (let index = 0; index < count; index++) images.push(await this.#image());
    const beside = dice.chance(0.5) ? ` ${word(dice)} ${word(dice)}` : '';
    return `<div style="position:relative;overflow:${dice.of(['hidden', 'visible'])}"><div class="${name}">${images.join(dice.of(['', ' ']))}${beside}</div></div><div style="clear:both"></div>`;
  }
}

/** Any style of an image in any surroundings with any attributes: what nobody planned, and every site has somewhere. */
export async function oddLayouts(seed: number): Promise<SiteFiles> {
  const dice = new Dice(seed);
  const odd = new OddPages(dice);
  const pages: SiteFiles = {};
  for (const path of ['index.html', 'one.html', 'two.html']) {
    const blocks: string[] = [];
    for (let index = 0; index < dice.between(6, 10); index++)
      blocks.push(await odd.block(), prose(dice, dice.between(3, 60)));
    const viewport = dice.chance(0.93)
      ? '<meta name="viewport" content="width=device-width,initial-scale=1">'
      : '';
    pages[path] =
      `<!doctype html><html lang="en"><head><meta charset="utf-8">${viewport}<title>${word(dice)}</title><link rel="stylesheet" href="/style.css"></head><body><main>${blocks.join('\n')}</main></body></html>`;
  }
  const sheet = [
    `${dice.of(['*{box-sizing:border-box}', ''])}body{margin:${dice.of([0, 8, 20])}px}`,
    `main{max-width:${dice.of([700, 1000, 1300])}px;margin:0 auto}`,
    dice.of(['', 'img{max-width:100%}', 'img{max-width:100%;height:auto}']),
    ...odd.rules,
  ].join('\n');
  return { ...pages, 'style.css': sheet, ...odd.box.files };
}
