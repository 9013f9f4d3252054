import { PriceList } from '../../src/core/bytes/price-list.js';
import { defaultTrifles, type Facts } from '../../src/core/checks/index.js';
import { defaultReach } from '../../src/core/layout/reach.js';
import type { Download, ImageFile, Placement, Screen } from '../../src/core/run/index.js';

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
  alt: '',
  slots: {},
  picks: {},
  downloads: {},
  shown: {},
  candidates: [],
  ...facts,
});

export interface SomeFacts {
  screens: Screen[];
  /** Downloads by page and screen. */
  downloads: Record<string, Record<string, Download[]>>;
  placements: Placement[];
  files?: ImageFile[];
}

/** Facts of a site whose pages are visited alike. */
export function someFacts({ screens, downloads, placements, files = [] }: SomeFacts): Facts {
  const pages = Object.entries(downloads).map(([path, visits]) => ({
    path,
    file: path,
    weight: 1 / Object.keys(downloads).length,
    visits: Object.entries(visits).map(([screen, list]) => {
      const bytes = list.reduce((sum, download) => sum + download.bytes, 0);
      const all = { downloads: list.length, bytes };
      return {
        screen,
        firstView: all,
        whole: all,
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
    proposals: new Map(),
    sweeps: new Map(),
    prices: new PriceList(new Map(), byUrl),
    states: new Map(),
    reach: defaultReach,
    placeholders: new Map(),
    crops: new Map(),
    sheets: new Map(),
    wishes: { formats: ['avif', 'webp'], trifles: defaultTrifles, keepCredits: false },
  };
}
