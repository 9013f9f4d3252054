import { PriceList } from '../../src/core/bytes/price-list.js';
import type { World } from '../../src/core/judging/facts.js';
import { drawnSize } from '../../src/core/layout/drawn-size.js';
import {
  environmentOf,
  naturalSize,
  parseImage,
  pickImage,
  readImageMarkup,
} from '../../src/core/markup/index.js';
import { resolveAddress } from '../../src/core/plan/addresses.js';
import { pickStyle } from '../../src/core/plan/style-rule.js';
import type {
  Download,
  ImageFile,
  PicturePrice,
  Placement,
  PlacementKind,
  Screen,
  Shown,
  SlotSweep,
} from '../../src/core/run/index.js';
import { someFacts, someFile, someLazyDistance, somePlacement } from './facts.js';

/** Small, fast and the same everywhere: mulberry32. */
export class Dice {
  constructor(private state: number) {}

  share(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  }

  between(low: number, high: number): number {
    return Math.floor(low + this.share() * (high - low + 1));
  }

  chance(share: number): boolean {
    return this.share() < share;
  }

  of<Thing>(things: readonly Thing[]): Thing {
    return things[this.between(0, things.length - 1)] as Thing;
  }
}

/** How a box gets its size: by styles, by the file, or by the file within a limit. CSS px. */
export interface Layout {
  kind: 'styled' | 'natural';
  width(screen: Screen, natural: number): number;
  height(width: number, screen: Screen, natural: { width: number; height: number }): number;
}

export interface GeneratedSite {
  world: World;
  layouts: ReadonlyMap<string, Layout>;
}

const allScreens: Screen[] = [
  { name: 'phone', width: 390, height: 844, density: 3, touch: true, share: 0.5 },
  { name: 'tablet', width: 820, height: 1180, density: 2, touch: true, share: 0.2 },
  { name: 'laptop', width: 1440, height: 900, density: 2, touch: false, share: 0.2 },
  { name: 'desktop', width: 1920, height: 1080, density: 1, touch: false, share: 0.1 },
];

interface Picture {
  /** Files of one picture, the widest first. */
  files: ImageFile[];
  height: number;
}

const endings: Record<string, string> = { jpeg: 'jpg', png: 'png', webp: 'webp', avif: 'avif' };

/** Names as generators, cameras and people give them; the width stands in some. */
function nameOf(dice: Dice, index: number, width: number): string {
  return dice.of([
    `gallery-0${index}`,
    `beach-2023-05-1${index}`,
    `hero`,
    `ka-${width}w`,
    `cover_${width}`,
    `lad-${width}`,
    `photo.${width}`,
    `logo@2x`,
    `img_${index}.3f2a9c1b`,
    `DSC0004${index}`,
    `main-${width}x${Math.round((width * 2) / 3)}`,
    `a%20b${index}`,
    'x',
  ]);
}

class Generator {
  readonly files = new Map<string, ImageFile>();
  readonly prices = new Map<string, PicturePrice>();
  readonly layouts = new Map<string, Layout>();
  readonly sweeps = new Map<string, SlotSweep>();
  readonly placements: Placement[] = [];
  readonly screens: Screen[];

  constructor(readonly dice: Dice) {
    const names = allScreens.filter(() => dice.chance(0.7));
    this.screens = names.length > 0 ? names : allScreens.slice(0, 1);
    const total = this.screens.reduce((sum, { share }) => sum + share, 0);
    this.screens = this.screens.map((screen) => ({ ...screen, share: screen.share / total }));
  }

  /** A picture in one format, at some widths; its names collide with those of others now and then. */
  picture(
    format = this.dice.of(['jpeg', 'jpeg', 'png', 'webp', 'avif']),
    ratio = this.dice.of([1.5, 1, 0.75, 3]),
  ): Picture {
    const { dice } = this;
    const folder = dice.of(['/', '/pictures/', '/a/']);
    const index = dice.between(1, 9);
    const widest = dice.of([300, 640, 800, 1200, 2000, 3000, 4000]);
    const widths = [
      widest,
      ...[0.5, 0.25].filter(() => dice.chance(0.4)).map((share) => Math.round(widest * share)),
    ];
    const weight = 0.4 + dice.share();
    const hash = `picture ${this.files.size} ${dice.between(0, 1e9)}`;
    const files: ImageFile[] = [];
    for (const width of widths) {
      const height = Math.max(1, Math.round(width / ratio));
      let url = `${folder}${nameOf(dice, index, width)}.${endings[format]}${dice.chance(0.05) ? '?v=3' : ''}`;
      while (this.files.has(url)) url = url.replace(/(\.\w+)(\?.*)?$/, `q$1$2`);
      const file = someFile({
        url,
        format,
        width,
        height,
        bytes: Math.round(weight * (width * height) ** 0.8 * (format === 'png' ? 9 : 2)),
        lossless: format === 'png',
        quality: format === 'jpeg' ? dice.between(70, 98) : null,
        metadata: dice.chance(0.2) ? { 'camera notes': 5200 } : {},
        hash: `${hash} ${width}`,
      });
      this.files.set(url, file);
      if (dice.chance(0.9)) this.prices.set(url, this.#price(file, weight));
      files.push(file);
    }
    return { files, height: Math.round(widest / ratio) };
  }

  #price(file: ImageFile, weight: number): PicturePrice {
    const { dice } = this;
    const factors: Record<string, number> = { jpeg: 0.9, webp: 0.7, avif: 0.5, png: 6 };
    const at = (factor: number) =>
      [0.1, 0.4, 1].map((share) => {
        const width = Math.max(16, Math.round(file.width * share));
        const bytes = Math.max(
          60,
          Math.round(weight * factor * ((width * (width * file.height)) / file.width) ** 0.8),
        );
        return { width, bytes, quality: 60, decibels: 12 };
      });
    const formats = Object.entries(factors).filter(([format]) => format === file.format || dice.chance(0.8));
    return {
      url: file.url,
      content: file.format === 'png' && dice.chance(0.4) ? 'graphic' : 'photo',
      alike: file.format === 'jpeg' || file.format === 'png' ? at(file.format === 'png' ? 8 : 1.8) : [],
      formats: Object.fromEntries(
        formats.map(([format, factor]) => [format, at(factor * (0.8 + dice.share() * 0.4))]),
      ),
      notes: [],
    };
  }

  layout(): { layout: Layout; fit: string } {
    const { dice } = this;
    if (dice.chance(0.25)) {
      const limit = dice.of([0.5, 0.9, 1]);
      return {
        fit: 'fill',
        layout: {
          kind: 'natural',
          width: (screen, natural) => Math.min(natural, screen.width * limit),
          height: (width, _, natural) => (width * natural.height) / Math.max(1e-9, natural.width),
        },
      };
    }
    const share = dice.of([1, 0.5, 0.33]);
    const fixed = dice.of([80, 160, 344]);
    const constant = dice.chance(0.4);
    const shape = dice.of([1.5, 1, 2.5]);
    const fit = dice.of(['fill', 'fill', 'cover', 'contain', 'none', 'scale-down']);
    return {
      fit,
      layout: {
        kind: 'styled',
        width: (screen) => (constant ? Math.min(fixed, screen.width) : screen.width * share),
        height: (width, _, natural) =>
          fit === 'fill' ? (width * natural.height) / Math.max(1e-9, natural.width) : width / shape,
      },
    };
  }

  build(): GeneratedSite {
    const { dice } = this;
    const pages = ['/', '/a/', '/a/b.html'].slice(0, dice.between(1, 3));
    const shared = this.picture();
    for (const page of pages) {
      const count = dice.between(1, 5);
      for (let index = 0; index < count; index++)
        this.#place(page, index, dice.chance(0.3) ? shared : undefined);
      if (dice.chance(0.3)) this.#preload(page);
    }
    const facts = someFacts({
      screens: this.screens,
      placements: this.placements,
      files: [...this.files.values()],
      downloads: this.#downloads(pages),
    });
    return {
      world: {
        ...facts,
        sweeps: this.sweeps,
        prices: new PriceList(this.prices, facts.files),
        wishes: { ...facts.wishes, formats: dice.of([['avif', 'webp'], ['webp'], []]) },
      },
      layouts: this.layouts,
    };
  }

  #place(page: string, index: number, shared: Picture | undefined): void {
    const { dice } = this;
    const form = dice.of(['img', 'img', 'x', 'w', 'type', 'media', 'both', 'css', 'input', 'poster']);
    const picture = shared ?? this.picture();
    const markup = this.#markup(form, picture, page);
    const kind = ({ css: 'css-image', input: 'input', poster: 'video-poster' }[form] ??
      (markup.startsWith('<picture') ? 'picture' : 'img')) as PlacementKind;
    this.#see(page, `${page}#${this.placements.length + 1}`, kind, markup, `body > .t${index % 3} > ${form}`);
  }

  #written(url: string, page: string): string {
    const folder = page.slice(0, page.lastIndexOf('/') + 1);
    return url.startsWith(folder) && this.dice.chance(0.5) ? url.slice(folder.length) : url;
  }

  #markup(form: string, { files }: Picture, page: string): string {
    const { dice } = this;
    const [first] = files as [ImageFile];
    const write = ({ url }: { url: string }) => this.#written(url, page);
    const ladder = (list: readonly ImageFile[]) =>
      list.map((file) => `${write(file)} ${file.width}w`).join(', ');
    const sizes = dice.of([' sizes="100vw"', ' sizes="50vw"', '', ' sizes="(max-width: 600px) 90vw, 300px"']);
    const more = dice.chance(0.3) ? ' loading="lazy"' : '';
    switch (form) {
      case 'x':
        return `<img src="${write(files.at(-1) ?? first)}" srcset="${write(first)} 2x"${more} alt="">`;
      case 'w':
        return `<img src="${write(first)}" srcset="${ladder(files)}"${sizes}${more} alt="">`;
      case 'type': {
        const other = this.picture('webp', first.width / first.height);
        return `<picture><source type="image/webp" srcset="${write(other.files[0] as ImageFile)}"><img src="${write(first)}"${more} alt=""></picture>`;
      }
      case 'media': {
        const tall = this.picture(first.format, 0.75);
        return `<picture><source media="(max-width: 700px)" srcset="${ladder(tall.files)}"${sizes}><img src="${write(first)}"${more} alt=""></picture>`;
      }
      case 'both': {
        const tall = this.picture('avif', 0.75);
        const plain = this.picture('jpeg', 0.75);
        return `<picture><source media="(max-width: 700px)" type="image/avif" srcset="${write(tall.files[0] as ImageFile)}"><source media="(max-width: 700px)" srcset="${write(plain.files[0] as ImageFile)}"><img src="${write(first)}" srcset="${ladder(files)}"${sizes}${more} alt=""></picture>`;
      }
      case 'css':
        return dice.of([
          `.band { background: #123 url(${write(first)}) center / cover; }`,
          `.band { color: red; background-image: image-set(url("${write(first)}") 1x, url('${write(files.at(-1) ?? first)}') 2x) }`,
          `.band { background-image: linear-gradient(#000, #fff), url("${write(first)}"); background-size: cover }`,
        ]);
      case 'input':
        return `<input type="image" src="${write(first)}" alt="">`;
      case 'poster':
        return `<video poster="${write(first)}"></video>`;
      default:
        return `<img src="${write(first)}"${more} alt="">`;
    }
  }

  #see(page: string, id: string, kind: PlacementKind, markup: string, template: string): void {
    const { dice } = this;
    const { layout, fit } = kind === 'css-image' ? { ...this.layout(), fit: 'cover' } : this.layout();
    const layer = markup.includes('gradient') ? 1 : 0;
    const style = kind === 'css-image' ? { property: 'background-image', layer } : undefined;
    const hidden = dice.chance(0.1);
    const y = dice.of([0, 300, 2500, 6000]);
    const placement = somePlacement({
      id,
      page,
      kind,
      markup,
      base: page,
      template,
      selector: `[data-id="${id}"]`,
      source: { file: 'index.html', line: this.placements.length + 1, column: 1 },
      ...(style ? { style } : {}),
    });
    for (const screen of this.screens) {
      const pick = this.#pick(placement, screen);
      const file = pick && this.files.get(pick.url);
      if (!pick || !file) continue;
      const natural = naturalSize(file, pick.density);
      const width = layout.width(screen, natural.width);
      const height = layout.height(width, screen, natural);
      const box = { x: 0, y, width, height };
      const drawn = drawnSize(box, natural, fit);
      const lazy = / loading="lazy"/.test(markup);
      const early = !lazy || y < screen.height + someLazyDistance;
      if (hidden && lazy) continue;
      placement.slots[screen.name] = hidden ? null : box;
      placement.picks[screen.name] = { predicted: pick.url, observed: pick.url };
      placement.downloads[screen.name] = {
        url: pick.url,
        bytes: file.bytes,
        began: early ? 'first-view' : 'scrolled',
        scrollDepth: early ? 0 : y - screen.height,
      };
      const shown: Shown = {
        state: 'drawn',
        whileWaiting: hidden || layout.kind === 'natural' ? null : box,
        beforeScroll: hidden ? null : box,
        fit,
        widthFrom: layout.kind === 'natural' ? 'nothing' : 'style',
        heightFrom: layout.kind === 'natural' ? 'nothing' : fit === 'fill' ? 'auto' : 'style',
        limitWidth: layout.kind === 'natural' ? layout.width(screen, Number.POSITIVE_INFINITY) : null,
        drawnWidth: hidden ? 0 : Math.round(drawn.width * 100) / 100,
        drawnHeight: hidden ? 0 : Math.round(drawn.height * 100) / 100,
        fileWidth: file.width,
        fileHeight: file.height,
        seen: !hidden,
        concealed: false,
        seenLater: false,
        pictureWrap: null,
        behind: 'nothing',
        waiting: null,
        largestPaint: false,
        lazy,
      };
      placement.shown[screen.name] = shown;
    }
    if (Object.keys(placement.downloads).length === 0) return;
    placement.candidates = [...new Set(Object.values(placement.downloads).map(({ url }) => url))];
    this.placements.push(placement);
    this.layouts.set(id, layout);
    this.#sweep(placement);
  }

  #pick(placement: Placement, screen: Screen): { url: string; density: number } | undefined {
    const { markup, base, kind, style } = placement;
    if (style) {
      const option = pickStyle(markup, style, environmentOf(screen));
      return option && { url: resolveAddress(option.url, base), density: option.density };
    }
    if (kind === 'input' || kind === 'video-poster' || kind === 'preload') {
      const written = /(?:src|poster|href)="([^"]+)"/.exec(markup)?.[1] ?? '';
      return { url: resolveAddress(written, base), density: 1 };
    }
    const read = readImageMarkup(markup);
    const pick = read && pickImage(parseImage(read), environmentOf(screen));
    return pick && { url: resolveAddress(pick.url, base), density: pick.density };
  }

  /** A list that gives every screen what is drawn there, as a sweep of the page would find it. */
  #sweep({ id, shown }: Placement): void {
    const { dice } = this;
    if (dice.chance(0.3)) return;
    const drawn = this.screens.flatMap(({ name, width }) => {
      const wide = shown[name]?.drawnWidth ?? 0;
      return wide > 0 ? [{ width, wide }] : [];
    });
    if (drawn.length === 0) return;
    const entries = drawn
      .sort((a, b) => a.width - b.width)
      .map(
        ({ width, wide }, index) =>
          `${index === drawn.length - 1 ? '' : `(max-width: ${width}px) `}${wide}px`,
      );
    const [first] = drawn;
    const constant = drawn.every(({ wide }) => wide === first?.wide) ? (first?.wide ?? null) : null;
    this.sweeps.set(id, {
      placement: id,
      pieces: [],
      write: entries.join(', '),
      reason: null,
      holds: 1,
      worst: 0,
      constant,
    });
  }

  #preload(page: string): void {
    const image = this.placements.find((placement) => placement.page === page);
    const url = image && Object.values(image.downloads)[0]?.url;
    if (url === undefined || image?.kind === 'preload') return;
    const id = `${page}#${this.placements.length + 1}`;
    const placement = somePlacement({
      id,
      page,
      kind: 'preload',
      markup: `<link rel="preload" as="image" href="${this.#written(url, page)}">`,
      base: page,
      template: 'head > link',
      selector: 'link',
      source: { file: 'index.html', line: 1, column: 1 },
      candidates: [url],
    });
    for (const { name } of this.screens)
      placement.downloads[name] = {
        url,
        bytes: this.files.get(url)?.bytes ?? 0,
        began: 'first-view',
        scrollDepth: 0,
      };
    this.placements.push(placement);
  }

  /** Each address once; what any image fetches early is early for all. */
  #downloads(pages: readonly string[]): Record<string, Record<string, Download[]>> {
    const all: Record<string, Record<string, Download[]>> = {};
    for (const page of pages) {
      const visits: Record<string, Download[]> = (all[page] = {});
      for (const { name } of this.screens) {
        const byUrl = new Map<string, Download>();
        const own = this.placements.filter((placement) => placement.page === page);
        for (const { downloads } of own) {
          const download = downloads[name];
          if (!download) continue;
          const known = byUrl.get(download.url);
          if (!known || (known.began === 'scrolled' && download.began === 'first-view'))
            byUrl.set(download.url, { ...download, type: 'image/jpeg', status: 200 });
        }
        for (const { downloads } of own) {
          const joined = byUrl.get(downloads[name]?.url ?? '');
          if (joined && downloads[name])
            downloads[name] = { ...downloads[name], began: joined.began, scrollDepth: joined.scrollDepth };
        }
        visits[name] = [...byUrl.values()].sort((a, b) => (a.url < b.url ? -1 : 1));
      }
    }
    return all;
  }
}

/** A site of one to three pages, each with images of every form, from a number. */
export function generatedSite(seed: number): GeneratedSite {
  return new Generator(new Dice(seed)).build();
}
