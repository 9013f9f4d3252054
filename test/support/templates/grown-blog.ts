import { Dice } from '../generated-site.js';
import { PictureBox, prose, word, type Master, type SiteFiles } from './pictures.js';

/** A picture that was stored, and its smaller versions. Sizes in px. */
interface Stored {
  url: string;
  width: number;
  height: number;
  versions: { url: string; width: number; height: number }[];
}

const ratios = [1.5, 1.5, 1.333, 1, 0.75, 1.778, 2.4];
const folders = ['uploads/2021/08', 'uploads/2023/11', 'images', 'Bilder'];

/** What many hands wrote into a blog over the years: each habit gives the markup of one block, and stores its pictures. */
class Hand {
  readonly box: PictureBox;
  readonly styles: string[] = [];
  #count = 0;

  constructor(readonly dice: Dice) {
    this.box = new PictureBox(dice);
  }

  /** A name as cameras, content systems and people give it. */
  #name(): string {
    const { dice } = this;
    this.#count++;
    const name = dice.of([
      () => `IMG_${dice.between(1000, 9999)}`,
      () => `${word(dice)} ${word(dice)}`,
      () => `Über ${word(dice)}`,
      () => `${word(dice)}@2x`,
      () => `${word(dice)}_final (1)`,
      () => `photo-${dice.between(1, 99)}-scaled`,
    ])();
    return `${name}-${this.#count}`;
  }

  async #store(width: number, ratio = this.dice.of(ratios), widths: readonly number[] = []): Promise<Stored> {
    const master = await this.box.photograph(width, Math.round(width / ratio));
    return this.#keep(master, this.dice.of(['jpg', 'jpg', 'png', 'webp']), widths);
  }

  async #keep(master: Master, format: string, widths: readonly number[] = []): Promise<Stored> {
    const path = `${this.dice.of(folders)}/${this.#name()}`;
    const urlOf = (file: string) => `/${file.split('/').map(encodeURIComponent).join('/')}`;
    const height = await this.box.store(`${path}.${format}`, master);
    const versions: Stored['versions'] = [];
    for (const width of widths.filter((each) => each < master.width)) {
      const own = Math.round((width * master.height) / master.width);
      await this.box.store(`${path}-${width}x${own}.${format}`, master, width);
      versions.push({ url: urlOf(`${path}-${width}x${own}.${format}`), width, height: own });
    }
    return { url: urlOf(`${path}.${format}`), width: master.width, height, versions };
  }

  #list({ url, width, versions }: Stored): string {
    return [...versions, { url, width }].map((each) => `${each.url} ${each.width}w`).join(', ');
  }

  #lazy(): string {
    return this.dice.of(['', ' loading="lazy"', ' loading=lazy decoding=async', ' decoding="async"']);
  }

  /** A content system's list of widths, with the `sizes` that it writes everywhere. */
  async system(): Promise<string> {
    const stored = await this.#store(this.dice.of([1280, 1600]), undefined, [150, 300, 768, 1024]);
    const shown = stored.versions.at(-1) ?? stored;
    const place = this.dice.of(['left', 'right', 'center', 'none']);
    const sizes = this.dice.of([`(max-width: ${shown.width}px) 100vw, ${shown.width}px`, '100vw']);
    return `<figure class="block align${place}"><img src="${shown.url}" alt="${word(this.dice)}" width="${shown.width}" height="${shown.height}" srcset="${this.#list(stored)}" sizes="${sizes}"${this.#lazy()} /></figure>`;
  }

  /** A tag with one attribute, two that do not fit, a share, or none. */
  async plain(): Promise<string> {
    const { url, width, height } = await this.#store(this.dice.of([320, 640, 900, 1600]));
    const said = this.dice.of([
      '',
      ` width=${width} height=${height}`,
      ' width="210"',
      ' width="48" height="24"',
      ' width="60%"',
      ' height=90',
      ' style="width:20em"',
    ]);
    return `<p><img src='${url}' alt='${word(this.dice)}'${said}${this.#lazy()}> ${word(this.dice)}</p>`;
  }

  async table(): Promise<string> {
    const cells: string[] = [];
    for (let index = 0; index < 3; index++) {
      const { url } = await this.#store(this.dice.of([300, 600]));
      cells.push(
        `<td><img src="${url}" width="${this.dice.of(['100%', '120', '80'])}" alt="${word(this.dice)}"></td><td>${prose(this.dice, 5)}</td>`,
      );
    }
    return `<table border=1><tr>${cells.join('')}</tr></table>`;
  }

  async icons(): Promise<string> {
    const { url } = await this.#keep(await this.box.drawing(512, 512), 'png');
    const items = Array.from(
      { length: this.dice.between(2, 4) },
      () =>
        `<li><img src="${url}" alt="" width="${this.dice.of([24, 48])}" height="24"> ${word(this.dice)}</li>`,
    );
    return `<ul class="icons">${items.join('')}</ul>`;
  }

  /** One source without widths before an image that has some, and says nothing of its size. */
  async typed(): Promise<string> {
    const master = await this.box.photograph(1400, Math.round(1400 / this.dice.of(ratios)));
    const [webp, jpeg] = [await this.#keep(master, 'webp'), await this.#keep(master, 'jpg', [480, 960])];
    return `<picture>\n  <source srcset="${webp.url}" type="image/webp">\n  <img src="${jpeg.url}" srcset="${this.#list(jpeg)}" sizes="100vw" alt="${word(this.dice)}">\n</picture>`;
  }

  async columns(): Promise<string> {
    const images: string[] = [];
    for (let index = 0; index < 5; index++)
      images.push(`<img src="${(await this.#store(this.dice.of([500, 800]))).url}" alt="">`);
    return `<div class="columns">${images.join('')}</div>`;
  }

  async slides(): Promise<string> {
    const slides: string[] = [];
    for (let index = 0; index < 3; index++)
      slides.push(
        `<div class="slide${index === 0 ? ' active' : ''}"><img src="${(await this.#store(1400, 1.778)).url}" alt="${word(this.dice)}"></div>`,
      );
    return `<div class="slides">${slides.join('')}</div>`;
  }

  /** What a script puts into `src` as it comes near. */
  async near(): Promise<string> {
    const { url, width, height } = await this.#store(this.dice.of([900, 1600]));
    const empty = 'data:image/gif;base64,R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7';
    return `<img class="near" src="${empty}" data-src="${url}" alt="${word(this.dice)}" width="${width}" height="${height}"><noscript><img src="${url}" alt=""></noscript>`;
  }

  async styled(): Promise<string> {
    const { url } = await this.#store(1600, 1.778);
    const name = `cover${this.styles.length}`;
    this.styles.push(
      `.${name}{height:${this.dice.between(150, 400)}px;background:#ddd url("${url}") ${this.dice.of(['center/cover', '50%/100% auto no-repeat'])}}`,
    );
    return `<section class="${name}"></section>`;
  }

  async face(): Promise<string> {
    return `<div class="by"><img src="${(await this.#store(400, 1)).url}" class="face" alt="${word(this.dice)}">${word(this.dice)}</div>`;
  }

  sheet(): string {
    const { dice } = this;
    const narrow = dice.of([640, 768, 900]);
    return [
      '*{box-sizing:border-box}body{margin:0;font:16px/1.6 sans-serif}',
      dice.of([
        'img{max-width:100%;height:auto}',
        'img{max-width:100%}',
        'img{max-width:100%;height:auto;display:block}',
      ]),
      `.page{max-width:${dice.of([720, 960, 1140])}px;margin:0 auto;padding:0 ${dice.of(['20px', '4vw', 'clamp(12px,3vw,40px)'])}}`,
      `.layout{display:${dice.of(['flex', 'block'])};gap:16px}main{flex:1;min-width:0}aside{flex:0 0 ${dice.of(['280px', '25%'])}}@media(max-width:${narrow}px){.layout{display:block}}`,
      `.block{margin:1em 0}.alignleft{float:left;width:40%;margin-right:1em}.alignright{float:right;max-width:50%;margin-left:1em}`,
      `.icons{list-style:none;display:flex;gap:1em}.columns{columns:3 200px;column-gap:12px}.columns img{width:100%;margin-bottom:12px}`,
      '.slide{display:none}.slide.active{display:block}.slide img{width:100%}.face{width:48px;height:48px;border-radius:50%;object-fit:cover}',
      ...this.styles,
    ].join('\n');
  }
}

const script =
  'const seen=new IntersectionObserver((all)=>all.forEach(({isIntersecting,target})=>{if(isIntersecting){target.src=target.dataset.src;seen.unobserve(target)}}));document.querySelectorAll(".near").forEach((each)=>seen.observe(each))';

/**
 * A blog that grew under many hands: a content system's lists, tags with one attribute, tables, columns, slides, what scripts load as it comes
 * near, and now and then a page that does not ask for the screen's own width.
 */
export async function grownBlog(seed: number): Promise<SiteFiles> {
  const dice = new Dice(seed);
  const hand = new Hand(dice);
  const habits = [
    () => hand.system(),
    () => hand.plain(),
    () => hand.table(),
    () => hand.icons(),
    () => hand.typed(),
    () => hand.columns(),
    () => hand.slides(),
    () => hand.near(),
    () => hand.styled(),
    () => hand.face(),
  ];
  const pages: SiteFiles = {};
  for (const path of ['index.html', '2023/first.html', '2024/second/index.html']) {
    const blocks: string[] = [];
    for (let index = 0; index < dice.between(5, 8); index++)
      blocks.push(await dice.of(habits)(), prose(dice, dice.between(15, 80)));
    const viewport = dice.chance(0.85)
      ? '<meta name="viewport" content="width=device-width, initial-scale=1">'
      : '';
    pages[path] =
      `<!DOCTYPE html>\n<html lang="en">\n<head><meta charset="utf-8">${viewport}<title>${word(dice)}</title>\n<link rel="stylesheet" href="/style.css"></head>\n<body>\n<div class="page"><h1>${word(dice)}</h1><div class="layout"><main>\n${blocks.join('\n')}\n</main><aside>${await hand.face()}${prose(dice, 20)}</aside></div></div>\n<script>${script}</script>\n</body></html>\n`;
  }
  return { ...pages, 'style.css': hand.sheet(), ...hand.box.files };
}
