import sharp from 'sharp';
import { Dice } from './generated-site.js';

/** Files of a site made at random: pages with images of every form, in every kind of box. */
export type SiteFiles = Record<string, string | Buffer>;

interface MadePicture {
  /** From the site's root. */
  path: string;
  width: number;
  height: number;
}

/** Noise in patches over a gradient: it weighs what photographs weigh, and no two are alike. */
async function paint(dice: Dice, width: number, height: number, format: string): Promise<Buffer> {
  const grain = 5;
  const [columns, rows] = [Math.ceil(width / grain), Math.ceil(height / grain)];
  const small = Buffer.alloc(columns * rows * 3);
  const tint = [dice.between(0, 150), dice.between(0, 150), dice.between(0, 150)];
  for (let index = 0; index < small.length; index++)
    small[index] = Math.min(
      255,
      ((tint[index % 3] ?? 0) + dice.between(0, 90) + (index / small.length) * 60) | 0,
    );
  const picture = sharp(small, { raw: { width: columns, height: rows, channels: 3 } }).resize({
    width,
    height,
    fit: 'fill',
    kernel: 'cubic',
  });
  switch (format) {
    case 'jpg':
      return picture.jpeg({ quality: dice.of([80, 90, 95]) }).toBuffer();
    case 'png':
      return picture.png().toBuffer();
    case 'webp':
      return picture.webp({ quality: 90 }).toBuffer();
    default:
      return picture.avif({ quality: 80, effort: 0 }).toBuffer();
  }
}

class PageMaker {
  readonly files: SiteFiles = {};
  readonly #styles: string[] = [];
  #count = 0;

  constructor(readonly dice: Dice) {}

  async picture(
    format = this.dice.of(['jpg', 'jpg', 'jpg', 'png', 'webp']),
    ratio = this.dice.of([1.5, 1, 2.2]),
  ): Promise<MadePicture> {
    const { dice } = this;
    const width = dice.of([240, 500, 900, 1400]);
    const height = Math.round(width / ratio);
    this.#count++;
    const name = dice.of([
      `gallery-0${this.#count}`,
      `beach-2023-05-${10 + this.#count}`,
      `ka${this.#count}-${width}w`,
      `cover${this.#count}_${width}`,
      `hero${this.#count}.${width}`,
      `IMG_${1000 + this.#count}`,
      `p${this.#count}.5f3a9c1b`,
      `m${this.#count}-${width}x${height}`,
      `a b${this.#count}`,
    ]);
    const path = `${dice.of(['pictures/', ''])}${name}.${format}`;
    this.files[path] = await paint(dice, width, height, format);
    return { path, width, height };
  }

  /** A picture again at other widths. */
  async ladder({ path, width, height }: MadePicture): Promise<MadePicture[]> {
    const shares = [0.5, 0.25];
    const content = this.files[path] as Buffer;
    const smaller = await Promise.all(
      shares.map(async (share): Promise<MadePicture> => {
        const size = Math.round(width * share);
        const name = path.replace(/(\.\w+)$/, `~${size}$1`);
        this.files[name] = await sharp(content).resize({ width: size }).toBuffer();
        return { path: name, width: size, height: Math.round(height * share) };
      }),
    );
    return [...smaller.reverse(), { path, width, height }];
  }

  /** A rule for a box, as a class. */
  #box(): string {
    const name = `k${this.#styles.length}`;
    const rule = this.dice.of([
      'width:100%;height:auto',
      'width:320px;height:auto',
      'width:33.3vw;height:auto',
      'max-width:100%;height:auto',
      'max-width:50%',
      'width:80px;height:80px;object-fit:cover',
      'width:100%;height:50vh;object-fit:cover',
      'width:240px;height:180px;object-fit:contain',
      'width:100%;aspect-ratio:3/1;object-fit:cover',
      'height:120px;width:auto',
      '',
    ]);
    this.#styles.push(`.${name}{${rule}}`);
    return name;
  }

  #href(path: string, depth: number): string {
    return '../'.repeat(depth) + path.split('/').map(encodeURIComponent).join('/');
  }

  async #image(depth: number, shared: MadePicture): Promise<{ html: string; head?: string }> {
    const { dice } = this;
    const box = this.#box();
    const href = ({ path }: MadePicture) => this.#href(path, depth);
    const again = dice.chance(0.2);
    const picture = again ? shared : await this.picture();
    const size = dice.chance(0.5) ? ` width="${picture.width}" height="${picture.height}"` : '';
    const lazy = dice.chance(0.2) ? ' loading="lazy"' : '';
    const tag = (attributes: string) => `<img class="${box}" ${attributes}${size}${lazy} alt="x">`;
    const list = (ladder: readonly MadePicture[]) =>
      ladder.map((each) => `${href(each)} ${each.width}w`).join(', ');
    const ratio = picture.width / picture.height;
    switch (
      dice.of([
        'img',
        'img',
        'img',
        'x',
        'w',
        'type',
        'media',
        'css',
        'style',
        'attribute',
        'hidden',
        'preload',
        'full',
      ])
    ) {
      case 'x': {
        const half = await this.ladder(picture);
        return { html: tag(`src="${href(half[1] ?? picture)}" srcset="${href(picture)} 2x"`) };
      }
      case 'w':
        return {
          html: tag(
            `src="${href(picture)}" srcset="${list(await this.ladder(picture))}" sizes="${dice.of(['100vw', '50vw', '320px'])}"`,
          ),
        };
      case 'type': {
        const newer = await this.picture('webp', ratio);
        return {
          html: `<picture><source type="image/webp" srcset="${href(newer)}">${tag(`src="${href(picture)}"`)}</picture>`,
        };
      }
      case 'media': {
        const tall = await this.picture('jpg', 0.8);
        return {
          html: `<picture><source media="(max-width: 600px)" srcset="${href(tall)}">${tag(`src="${href(picture)}"`)}</picture>`,
        };
      }
      case 'css': {
        const name = `b${this.#styles.length}`;
        const url = this.#href(picture.path, 1);
        this.#styles.push(
          dice.of([
            `.${name} {\n  height: 200px; background: #345 url(${url}) center / cover;\n}`,
            `.${name} { height: 160px; background-image: image-set(url("${url}") 1x); background-size: contain; background-repeat: no-repeat }`,
            `.${name} { height: 160px; background-image: linear-gradient(#0003, #0006), url('${url}'); background-size: cover }`,
          ]),
        );
        return { html: `<div class="${name}"></div>` };
      }
      case 'style': {
        const name = `s${this.#styles.length}${dice.between(0, 999)}`;
        return {
          html: `<div class="${name}"></div>`,
          head: `<style>.${name} { height: 180px; background: url(${href(picture)}) center / cover }</style>`,
        };
      }
      case 'attribute':
        return {
          html: `<div style="height: 150px; background-size: cover; background-image: url(${href(picture)})"></div>`,
        };
      case 'hidden':
        return {
          html: `${tag(`src="${href(picture)}"`)}<div style="display:none"><img src="${href(picture)}" alt=""></div>`,
        };
      case 'preload':
        return {
          html: tag(`src="${href(picture)}"`),
          head: `<link rel="preload" as="image" href="${href(picture)}">`,
        };
      case 'full':
        return {
          html: `<img src="${href(picture)}" style="width:60px;height:auto" alt="">${tag(`src="${href(picture)}"`)}`,
        };
      default:
        return { html: tag(`src="${href(picture)}"`) };
    }
  }

  async site(pages: number): Promise<SiteFiles> {
    const { dice } = this;
    const shared = await this.picture('jpg');
    for (let page = 0; page < pages; page++) {
      const depth = dice.between(0, 1);
      const parts: { html: string; head?: string }[] = [];
      for (let count = dice.between(2, 5); count > 0; count--) {
        parts.push(await this.#image(depth, shared));
        if (dice.chance(0.3)) parts.push({ html: `<div style="height:${dice.of([400, 3000])}px"></div>` });
      }
      const body = parts.map(({ html }) => `<section>${html}</section>`).join('\n');
      const heads = parts.flatMap(({ head }) => head ?? []).join('\n');
      this.files[`${depth > 0 ? 'deep/' : ''}page-${page}.html`] =
        `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">\n<title>x</title><link rel="stylesheet" href="${this.#href('styles/site.css', depth)}">\n${heads}</head>\n<body>\n${body}\n</body></html>\n`;
    }
    this.files['styles/site.css'] =
      `body{margin:0;font:16px sans-serif}img{display:block}\n${this.#styles.join('\n')}\n`;
    return this.files;
  }
}

/** A site of so many pages, from a number. */
export const generatedPages = (seed: number, pages: number): Promise<SiteFiles> =>
  new PageMaker(new Dice(seed)).site(pages);
