import { PriceList } from '../../src/core/bytes/price-list.js';
import { defaultTrifles } from '../../src/core/bytes/trifles.js';
import type { Wishes, World } from '../../src/core/judging/facts.js';
import { defaultReach } from '../../src/core/layout/reach.js';
import type { Download, ImageFile, Placement, Screen, Shown } from '../../src/core/run/index.js';

/** A file as facts know it; only what is given matters to the test. */
export const someFile = (facts: Partial<ImageFile> & { url: string }): ImageFile => ({
  format: 'jpeg',
  width: 1600,
  height: 1200,
  bytes: 400_000,
  animated: false,
  frames: 1,
  colourSpace: 'srgb',
  bitDepth: 8,
  alpha: 'none',
  lossless: false,
  palette: false,
  quality: 92,
  embedded: 0,
  turned: false,
  truncated: false,
  metadata: {},
  hash: facts.url,
  ...facts,
});

export const somePlacement = (facts: Partial<Placement> & { id: string }): Placement => ({
  page: '/',
  kind: 'img',
  selector: 'img',
  source: null,
  template: 'body > img',
  markup: '<img src="a.jpg" alt="">',
  base: '/',
  alt: '',
  slots: {},
  picks: {},
  downloads: {},
  shown: {},
  candidates: [],
  ...facts,
});

/** How far below the fold lazy images are loaded in these facts, CSS px. */
export const someLazyDistance = 1250;

export const someWishes: Wishes = {
  formats: ['avif', 'webp'],
  trifles: defaultTrifles,
  keepCredits: false,
  crops: false,
  sharpness: Number.POSITIVE_INFINITY,
};

export const oneScreen: Screen = {
  name: 'desk',
  width: 1000,
  height: 800,
  density: 1,
  touch: false,
  share: 1,
};

interface ShownImage {
  url: string;
  bytes: number;
  /** CSS px. */
  slot: [width: number, height: number];
  /** Device px. */
  file: [width: number, height: number];
  at?: [x: number, y: number];
  /** What else is known of it on this screen. */
  more?: Partial<Shown>;
  began?: 'first-view' | 'scrolled';
}

/** What a placement holds of one screen on which it is drawn. */
export function shownOn(
  { name }: Screen,
  {
    url,
    bytes,
    slot: [width, height],
    file,
    at: [x, y] = [0, 0],
    more = {},
    began = 'first-view',
  }: ShownImage,
): Pick<Placement, 'slots' | 'picks' | 'downloads' | 'shown'> {
  const slot = { x, y, width, height };
  const shown: Shown = {
    state: 'drawn',
    whileWaiting: slot,
    beforeScroll: slot,
    fit: 'fill',
    widthFrom: 'style',
    heightFrom: 'auto',
    limitWidth: null,
    drawnWidth: width,
    drawnHeight: height,
    fileWidth: file[0],
    fileHeight: file[1],
    seen: true,
    concealed: false,
    seenLater: false,
    pictureWrap: null,
    behind: 'nothing',
    waiting: null,
    largestPaint: false,
    lazy: false,
    ...more,
  };
  return {
    slots: { [name]: slot },
    picks: { [name]: { predicted: url, observed: url } },
    downloads: { [name]: { url, bytes, began, scrollDepth: 0 } },
    shown: { [name]: shown },
  };
}

/** The downloads that placements show, a page and screen each, every address once. */
function downloadsOf(
  placements: readonly Placement[],
  screens: readonly Screen[],
): Record<string, Record<string, Download[]>> {
  const pages: Record<string, Record<string, Download[]>> = {};
  for (const { page, downloads } of placements)
    for (const { name } of screens) {
      const list = ((pages[page] ??= {})[name] ??= []);
      const own = downloads[name];
      if (own && !list.some(({ url }) => url === own.url))
        list.push({ ...own, type: 'image/jpeg', status: 200 });
    }
  return pages;
}

export interface SomeFacts {
  screens: Screen[];
  /** Downloads by page and screen; those of the placements if left out. */
  downloads?: Record<string, Record<string, Download[]>>;
  placements: Placement[];
  files?: ImageFile[];
}

/** Facts of a site whose pages are visited alike. */
export function someFacts({
  screens,
  placements,
  downloads = downloadsOf(placements, screens),
  files = [],
}: SomeFacts): World {
  const pages = Object.entries(downloads).map(([path, visits]) => ({
    path,
    file: path,
    base: path,
    weight: 1 / Object.keys(downloads).length,
    visits: Object.entries(visits).map(([screen, list]) => {
      const bytes = list.reduce((sum, download) => sum + download.bytes, 0);
      const all = { downloads: list.length, bytes };
      return {
        screen,
        state: 'complete' as const,
        firstView: all,
        whole: all,
        byItself: { downloads: 0, bytes: 0 },
        allBytes: bytes,
        documentHeight: 5000,
        documentWidth: 400,
        largestPaint: null,
        shift: { score: 0, observed: 0, releases: [] },
        downloads: list,
      };
    }),
    withoutScript: null,
  }));
  const byUrl = new Map(files.map((file) => [file.url, file]));
  return {
    screens,
    pages,
    placements,
    files: byUrl,
    names: new Set(byUrl.keys()),
    twins: new Map(),
    sweeps: new Map(),
    prices: new PriceList(new Map(), byUrl),
    reach: defaultReach,
    lazyDistance: someLazyDistance,
    placeholders: new Map(),
    crops: new Map(),
    sheets: new Map(),
    wishes: someWishes,
  };
}
