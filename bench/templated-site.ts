/**
 * A site of some templates with text of any length on each page, twelve images a page, faults in four of the templates, and twenty pages with a
 * fault of their own.
 */
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';

/** The same numbers each time: mulberry32. */
function numbers(seed: number): () => number {
  let state = seed | 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

const words =
  'snow ridge hut path stone larch valley river cloud map rope boot lamp stove bunk tea bread rain wind'.split(
    ' ',
  );

const shapes = [
  { width: 900, height: 600 },
  { width: 960, height: 540 },
  { width: 600, height: 600 },
];

interface Picture {
  number: number;
  width: number;
  height: number;
}

/** A fault that one page has for itself, and the check that finds it. */
export interface PlantedFault {
  page: string;
  check: string;
}

const style =
  '*{box-sizing:border-box}body{margin:0;font:16px/1.5 sans-serif}header{height:64px;background:#234}main{max-width:1100px;margin:0 auto;padding:16px}' +
  'img{max-width:100%;height:auto;display:block}main>img,.hero img{max-width:min(100%,460px)}.hero img{width:100%}' +
  '.grid{display:grid;grid-template-columns:repeat(3,1fr);gap:16px}.grid img{width:100%}@media(max-width:700px){.grid{grid-template-columns:1fr}}' +
  '.side{float:right;width:30%}.cards{display:flex;flex-wrap:wrap;gap:12px}.cards figure{margin:0;width:calc(50% - 6px)}.cards img{width:100%;aspect-ratio:4/3;object-fit:cover}';

const imagesOfAPage = 12;
const ownFaults = 20;

/** The checks that find the faults of the templates, by template; two have none. */
export const templateFaults: readonly (string | undefined)[] = [
  undefined,
  'sizes-overstates',
  'more-pixels-than-needed',
  'lazy-in-first-view',
  'no-dimensions',
  undefined,
];

/** @returns the faults of single pages */
export async function writeTemplatedSite(folder: string, pages: number, seed = 1): Promise<PlantedFault[]> {
  const random = numbers(seed);
  const between = (least: number, most: number) => least + Math.floor(random() * (most - least + 1));
  const text = (count: number) =>
    Array.from({ length: count }, () => words[between(0, words.length - 1)]).join(' ');
  const pictures = await drawPictures(folder);
  const shaped = (shape: number) => {
    const own = pictures.filter((_, index) => index % shapes.length === shape);
    return own[between(0, own.length - 1)] as Picture;
  };
  const image = ({ number, width }: Picture, attributes: string) =>
    `<img src="/img/p${number}-${width}w.jpg" ${attributes} alt="${text(3)}">`;
  const sized = (picture: Picture, sizes: string, more = '') =>
    image(
      picture,
      `srcset="/img/p${picture.number}-320w.jpg 320w, /img/p${picture.number}-${picture.width}w.jpg ${picture.width}w" sizes="${sizes}" width="${picture.width}" height="${picture.height}"${more}`,
    );
  const lazy = ' loading="lazy"';
  const column = '(max-width: 492px) calc(100vw - 32px), 460px';
  const paragraph = () => `<p>${text(between(20, 90))}.</p>`;
  const many = (count: number, each: () => string) => Array.from({ length: count }, each).join('');
  const rest = imagesOfAPage - 1;
  const templates: (() => string)[] = [
    () =>
      `<div class="hero">${sized(shaped(0), column)}</div><h1>${text(between(3, 8))}</h1>${many(rest, () => paragraph() + sized(shaped(0), column, lazy))}`,
    () =>
      `<h1>${text(between(3, 6))}</h1>${paragraph()}<div class="grid">${many(imagesOfAPage, () => sized(shaped(0), '100vw'))}</div>${paragraph()}`,
    () =>
      `<h1>${text(between(2, 5))}</h1><div class="cards">${many(imagesOfAPage, () => {
        const picture = shaped(1);
        return `<figure>${image(picture, `width="${picture.width}" height="${picture.height}"`)}<figcaption>${text(3)}</figcaption></figure>`;
      })}</div>${paragraph()}`,
    () =>
      `<div class="hero">${sized(shaped(1), column, lazy)}</div><p>${text(between(4, 9))}.</p>${many(rest, () => `<h2>${text(between(2, 5))}</h2><p>${text(between(4, 30))}.</p>${sized(shaped(1), column, lazy)}`)}`,
    () =>
      `<h1>${text(4)}</h1>${image(shaped(2), '')}${paragraph()}${many(rest, () => paragraph() + sized(shaped(0), column, lazy))}`,
    () =>
      `<h1>${text(5)}</h1>${many(imagesOfAPage, () => `<article><h2>${text(between(2, 6))}</h2><div class="side">${sized(shaped(0), '(max-width: 1100px) calc(30vw - 10px), 320px', lazy)}</div>${paragraph()}${paragraph()}<div style="clear:both"></div></article>`)}`,
  ];
  await writeFile(join(folder, 'style.css'), style);
  const planted: PlantedFault[] = [];
  const every = Math.floor(pages / ownFaults) | 1;
  for (let number = 0; number < pages; number++) {
    const template = number % templates.length;
    const name = `t${template}/page${number}.html`;
    let body = templates[template]?.() ?? '';
    if (number % every === 3 && planted.length < ownFaults) {
      const fault = faults[planted.length % faults.length];
      const spoiled = fault?.spoil(body, number) ?? body;
      if (fault && spoiled !== body) planted.push({ page: `/${name}`, check: fault.check });
      body = spoiled;
    }
    await mkdir(join(folder, `t${template}`), { recursive: true });
    await writeFile(
      join(folder, name),
      `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${text(3)}</title><link rel="stylesheet" href="/style.css"></head><body><header><a href="/">Home</a></header><main>${body}</main><footer><p>${text(12)}</p></footer></body></html>`,
    );
  }
  return planted;
}

const faults: { check: string; spoil(body: string, number: number): string }[] = [
  {
    check: 'does-not-load',
    spoil: (body, number) =>
      body
        .replace(/<img src="[^"]*"/, `<img src="/img/missing-${number}.jpg"`)
        .replace(/ srcset="[^"]*"/, ''),
  },
  { check: 'no-text-alternative', spoil: (body) => body.replace(/ alt="[^"]*">/, '>') },
  {
    check: 'dimensions-of-another-ratio',
    spoil: (body) => body.replace(/width="\d+" height="\d+"/, 'width="1000" height="1000"'),
  },
  {
    check: 'descriptor-differs-from-file',
    spoil: (body) => body.replace(/ 900w"/, ' 1400w"').replace(/ 960w"/, ' 1400w"'),
  },
];

async function drawPictures(folder: string): Promise<Picture[]> {
  await mkdir(join(folder, 'img'), { recursive: true });
  const pictures: Picture[] = [];
  for (let number = 0; number < 100; number++) {
    const { width, height } = shapes[number % shapes.length] as (typeof shapes)[number];
    const noise = { type: 'gaussian' as const, mean: 128, sigma: 40 };
    const create = {
      width: width >> 2,
      height: height >> 2,
      channels: 3 as const,
      background: '#888',
      noise,
    };
    const drawn = await sharp({ create })
      .resize(width, height)
      .modulate({ hue: number * 7 })
      .jpeg({ quality: 85 })
      .toBuffer();
    await writeFile(join(folder, 'img', `p${number}-${width}w.jpg`), drawn);
    const small = await sharp(drawn).resize(320).jpeg({ quality: 80 }).toBuffer();
    await writeFile(join(folder, 'img', `p${number}-320w.jpg`), small);
    pictures.push({ number, width, height });
  }
  return pictures;
}
