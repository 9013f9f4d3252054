import { Dice } from '../generated-site.js';
import { PictureBox, prose, word, type SiteFiles } from './pictures.js';

/** How a tag is written: by hand, by tools that make pages small, by those that lay them out, and by those of other times. */
const hands = ['plain', 'small', 'capitals', 'single', 'closed', 'lines', 'loose'] as const;

/** How files are named, and how addresses lead to them. */
const names = ['plain', 'spaces', 'umlauts', 'camera', 'capitals'] as const;
const addresses = ['root', 'relative', 'query', 'base'] as const;

type Attributes = Record<string, string | number | undefined>;

interface Stored {
  path: string;
  width: number;
  height: number;
  widths: { path: string; width: number }[];
}

/** Boxes that move easily, as `box{…}` and `box img{…}`. */
const layouts: [box: string, image: string][] = [
  ['', 'height:200px;width:auto;max-width:100%'],
  ['', 'height:30vh;width:auto'],
  ['display:inline-block', 'max-width:100%;height:auto'],
  ['display:table', 'max-width:100%;height:auto'],
  ['display:table', 'max-width:100%'],
  ['display:inline-flex', 'width:100%;height:auto'],
  ['display:grid;width:fit-content', ''],
  ['width:fit-content', 'max-width:100%;height:auto'],
  ['overflow:hidden;width:300px', 'width:100%;height:auto;display:block;transform:rotate(-3deg)'],
  [
    'position:relative;padding-bottom:75%;overflow:hidden',
    'position:absolute;inset:0;width:100%;height:100%;object-fit:contain',
  ],
  ['overflow:hidden', 'width:calc(100% - 3rem);height:auto'],
  ['display:grid;grid-template-columns:minmax(0,2fr) minmax(0,1fr);gap:1rem', 'max-width:100%;height:auto'],
  ['zoom:.8;max-width:600px', 'max-width:100%;height:auto'],
  ['writing-mode:vertical-rl;height:260px', 'max-block-size:100%;inline-size:200px'],
  ['direction:rtl', 'float:left;width:45%;height:auto'],
];

const sizesLists = [
  undefined,
  '100vw',
  '(min-width: 1024px) 50vw, 100vw',
  'auto, 100vw',
  'calc(100vw - 40px)',
];
const listsOfWidths = [[], [], [320, 640], [400, 800], [480]];

class OddMarkup {
  readonly box: PictureBox;
  readonly rules: string[] = [];
  readonly way;
  readonly #hand;
  readonly #naming;
  readonly #folder;
  /** What leads from the page at hand to the root of the site. */
  up = '';

  constructor(readonly dice: Dice) {
    this.box = new PictureBox(dice);
    this.#hand = dice.of(hands);
    this.#naming = dice.of(names);
    this.way = dice.of(addresses);
    this.#folder = dice.of(['img', 'Bilder', 'assets/media/large', '.parts/img', 'pix.d']);
  }

  #stem(): string {
    const { dice } = this;
    const count = Object.keys(this.box.files).length;
    switch (this.#naming) {
      case 'spaces':
        return `${word(dice)} ${word(dice)} ${count}`;
      case 'umlauts':
        return `${word(dice)}ü${word(dice)}é${count}`;
      case 'camera':
        return `IMG_${dice.between(1000, 9999)} (${count})`;
      case 'capitals':
        return `${word(dice)}-${count}`.toUpperCase();
      default:
        return `${word(dice)}${count}`;
    }
  }

  async #store(widths: readonly number[], most = 1300): Promise<Stored> {
    const { dice, box } = this;
    const width = Math.min(most, dice.of([640, 900, 1300]));
    const master = await box.photograph(width, Math.round(width / dice.of([1.5, 1, 1.778, 0.75])));
    const format = dice.of(['jpg', 'jpg', 'webp']);
    const stem = `${this.#folder}/${this.#stem()}`;
    const path = `${stem}.${format}`;
    await box.store(path, master);
    const smaller = widths.filter((each) => each < width);
    for (const each of smaller) await box.store(`${stem}-${each}.${format}`, master, each);
    const files = smaller.map((each) => ({ path: `${stem}-${each}.${format}`, width: each }));
    return { path, width, height: master.height, widths: [...files, { path, width }] };
  }

  /** An address as it stands in an attribute of the page at hand. */
  #address(path: string): string {
    const encoded = path.split('/').map(encodeURIComponent).join('/');
    if (this.way === 'relative') return `${this.up}${encoded}`;
    if (this.way === 'base') return encoded;
    return `/${encoded}${this.way === 'query' ? '?v=3&amp;x=1' : ''}`;
  }

  #tag(name: string, attributes: Attributes): string {
    const given = Object.entries(attributes).filter(([, value]) => value !== undefined);
    if (this.dice.chance(0.3)) given.reverse();
    const written = given.map(([key, value]) => {
      const text = String(value);
      if (this.#hand === 'small' && /^[^\s"'=<>`]*[^\s"'=<>`/]$/.test(text)) return `${key}=${text}`;
      if (this.#hand === 'single') return `${key}='${text}'`;
      if (this.#hand === 'loose') return `${key} = "${text} "`;
      return `${this.#hand === 'capitals' ? key.toUpperCase() : key}="${text}"`;
    });
    if (this.#hand === 'capitals') return `<${name.toUpperCase()} ${written.join(' ')}>`;
    if (this.#hand === 'lines') return `<${name}\n    ${written.join('\n    ')}\n  >`;
    return `<${name} ${written.join(' ')}${this.#hand === 'closed' ? ' /' : ''}>`;
  }

  async #image(): Promise<string> {
    const { dice } = this;
    const { path, width, height, widths } = await this.#store(dice.of(listsOfWidths));
    const list = widths.map((each) => `${this.#address(each.path)} ${each.width}w`);
    const hasList = list.length > 1;
    return this.#tag('img', {
      src: this.#address(path),
      srcset: hasList ? list.join(dice.of([', ', ',\n      ', ' , '])) : undefined,
      sizes: hasList ? dice.of(sizesLists) : undefined,
      ...(dice.chance(0.5) ? { width, height } : {}),
      loading: dice.of([undefined, undefined, 'lazy', 'LAZY', 'eager']),
      alt: dice.chance(0.9) ? word(dice) : undefined,
    });
  }

  async #picture(): Promise<string> {
    const { dice } = this;
    const [wide, high] = [await this.#store([]), await this.#store([], 640)];
    const media = dice.of(['(max-width: 600px)', '(width < 700px)', '(min-resolution: 2dppx)']);
    const source = this.#tag('source', { media, srcset: this.#address(high.path) });
    const { width, height } = wide;
    const image = this.#tag('img', { src: this.#address(wide.path), alt: word(dice), width, height });
    return `<picture>${source}${image}</picture>`;
  }

  async #style(): Promise<string> {
    const { dice } = this;
    const { path } = await this.#store([]);
    // Style sheets of the site lie one folder below its root.
    const url = `../${path.split('/').map(encodeURIComponent).join('/').replace(/[()']/g, '\\$&')}`;
    const name = `s${this.rules.length}`;
    const image = dice.of([
      `background:linear-gradient(#0006,#0006),url("${url}") center/cover`,
      `--picture:url("${url}");background:var(--picture) center/cover`,
      `background:url(${url}) no-repeat center/contain`,
      `background-image:url('${url}');background-size:auto 100%`,
    ]);
    this.rules.push(`.${name}{height:${dice.of([180, 260])}px;${image}}`);
    return `<div class="${name}"></div>`;
  }

  async block(): Promise<string> {
    const { dice, rules } = this;
    if (dice.chance(0.15)) return this.#style();
    const name = `m${rules.length}`;
    const [box, image] = dice.of(layouts);
    rules.push(`.${name}{${box}}.${name} img{${image}}`);
    if (dice.chance(0.15)) return `<div class="${name}">${await this.#picture()}</div>`;
    if (dice.chance(0.15)) {
      const cells = [await this.#image(), await this.#image()].map((each) => `<td>${each}</td>`);
      return `<table class="${name}"><tr>${cells.join('')}</tr></table>`;
    }
    const beside = dice.chance(0.4) ? `<span>${word(dice)}</span>` : '';
    return `<div class="${name}">${await this.#image()}${beside}</div>`;
  }
}

/** Markup of many hands: tags, names and addresses as nobody would write them today, and boxes that follow from their images. */
export async function oddMarkup(seed: number): Promise<SiteFiles> {
  const dice = new Dice(seed);
  const odd = new OddMarkup(dice);
  const isBare = dice.chance(0.3);
  const lineEnd = dice.of(['\n', '\n', '\r\n']);
  const pages: SiteFiles = {};
  for (const path of ['index.html', 'a/one.html', 'a/b/two.html']) {
    odd.up = '../'.repeat(path.split('/').length - 1);
    const blocks: string[] = [];
    for (let index = 0; index < dice.between(5, 8); index++)
      blocks.push(await odd.block(), prose(dice, dice.between(3, 60)));
    const base = odd.way === 'base' ? '<base href="/">' : '';
    const head = `<meta charset=utf-8><meta name=viewport content="width=device-width, initial-scale=1"><title>${word(dice)}</title>${base}<link rel=stylesheet href="/css/site.css">`;
    const body = blocks.join('\n');
    const page = isBare
      ? `<!DOCTYPE html>${head}\n${body}`
      : `<!doctype html>\n<html lang="de">\n<head>${head}</head>\n<body>${body}\n</body>\n</html>\n`;
    pages[path] = page.replaceAll('\n', lineEnd);
  }
  const sheet = [
    `${dice.of(['*{box-sizing:border-box}', ''])}body{margin:0 auto;max-width:${dice.of(['none', '1100px'])};padding:0 ${dice.of(['0', '16px', '4vw'])}}`,
    dice.of(['', 'img{max-width:100%;height:auto}', 'img{vertical-align:bottom}']),
    ...odd.rules,
  ];
  return { ...pages, 'css/site.css': sheet.join(lineEnd), ...odd.box.files };
}
