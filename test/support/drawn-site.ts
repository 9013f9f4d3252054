import { PriceList } from '../../src/core/bytes/price-list.js';
import { checks } from '../../src/core/checks/index.js';
import type { World } from '../../src/core/judging/facts.js';
import { writeFixes, type Written } from '../../src/core/judging/fixes.js';
import { judge } from '../../src/core/judging/judge.js';
import { drawnSize } from '../../src/core/layout/drawn-size.js';
import {
  environmentOf,
  naturalSize,
  parseImage,
  pickImage,
  readImageMarkup,
} from '../../src/core/markup/index.js';
import { resolveAddress } from '../../src/core/plan/addresses.js';
import { pickLink } from '../../src/core/plan/link.js';
import { pickStyle } from '../../src/core/plan/style-rule.js';
import type {
  Fix,
  ImageFile,
  PicturePrice,
  Placement,
  Screen,
  SideFrom,
  SlotSweep,
} from '../../src/core/run/index.js';
import { shownOn, someFacts, someFile, somePlacement } from './facts.js';

/** One screen, so that numbers can be worked out by hand. */
export const desk: Screen = { name: 'desk', width: 1000, height: 800, density: 1, touch: false, share: 1 };

export interface DrawnImage {
  markup: string;
  page?: string;
  kind?: Placement['kind'];
  /** CSS px; by screen, or the same on all; null for no box. */
  slot: [width: number, height: number] | null | Record<string, [number, number] | null>;
  fit?: string;
  /** From the top, CSS px. */
  y?: number;
  template?: string;
  layer?: number;
  widthFrom?: SideFrom;
  heightFrom?: SideFrom;
  /** Its `sizes` by a sweep, and the one width at which it is drawn, if so. */
  sweep?: Partial<SlotSweep>;
}

export interface DrawnSite {
  screens?: Screen[];
  /** Width, height and bytes by path, and what else is known of the file. */
  files: Record<string, [width: number, height: number, bytes: number, more?: Partial<ImageFile>]>;
  images: DrawnImage[];
  formats?: string[];
  twins?: Record<string, string[]>;
  /** Whether pictures have prices; else nothing is made lighter. */
  priced?: boolean;
}

const formatOf = (url: string) =>
  ({ jpg: 'jpeg' })[/\.(\w+)$/.exec(url)?.[1] ?? ''] ?? /\.(\w+)$/.exec(url)?.[1] ?? '';

/** Bytes grow with the pixels to the power 0.8; at equal looks a file is as heavy as it is, unless told otherwise. */
function priceOf(file: ImageFile): PicturePrice {
  const at = (factor: number) =>
    [0.02, 0.1, 0.3, 0.6, 1].map((share) => ({
      width: Math.round(file.width * share),
      bytes: Math.max(1, Math.round(file.bytes * factor * share ** 1.6)),
      quality: 73,
      decibels: 12,
    }));
  return {
    url: file.url,
    content: 'photo',
    alike: at(1),
    formats: {
      [file.format]: at(1),
      webp: at(0.9),
      avif: at(0.6),
      ...(file.format === 'png' ? { jpeg: at(0.1) } : {}),
    },
    notes: [],
  };
}

export function drawnWorld({
  screens = [desk],
  files,
  images,
  formats = [],
  twins = {},
  priced = true,
}: DrawnSite): World {
  const known = Object.entries(files).map(([url, [width, height, bytes, more = {}]]) =>
    someFile({
      url,
      width,
      height,
      bytes,
      format: formatOf(url),
      lossless: url.endsWith('.png'),
      quality: url.endsWith('.jpg') ? 80 : null,
      ...more,
    }),
  );
  const byUrl = new Map(known.map((file) => [file.url, file]));
  const placements = images.map((image, index) => placed(image, index, screens, byUrl));
  const facts = someFacts({ screens, placements, files: known });
  const sweeps = images.flatMap(({ sweep }, index): [string, SlotSweep][] => {
    const id = placements[index]?.id ?? '';
    return sweep
      ? [
          [
            id,
            {
              placement: id,
              pieces: [],
              write: null,
              reason: null,
              holds: 1,
              worst: 0,
              constant: null,
              ...sweep,
            },
          ],
        ]
      : [];
  });
  return {
    ...facts,
    sweeps: new Map(sweeps),
    twins: new Map(Object.entries(twins)),
    prices: new PriceList(
      new Map(priced ? known.map((file) => [file.url, priceOf(file)]) : []),
      facts.files,
      priced,
    ),
    wishes: { ...facts.wishes, formats },
  };
}

function placed(
  image: DrawnImage,
  index: number,
  screens: readonly Screen[],
  files: ReadonlyMap<string, ImageFile>,
): Placement {
  const { markup, page = '/', fit = 'fill', y = 0, widthFrom = 'style', heightFrom = 'auto' } = image;
  const kind =
    image.kind ??
    (markup.startsWith('<picture') ? 'picture' : markup.startsWith('<img') ? 'img' : 'css-image');
  const style = kind === 'css-image' ? { property: 'background-image', layer: image.layer ?? 0 } : undefined;
  const placement = somePlacement({
    id: `${page}#${index + 1}`,
    page,
    kind,
    markup,
    base: page,
    source: { file: 'index.html', line: index + 1, column: 1 },
    template: image.template ?? `body > .t${index}`,
    ...(style ? { style } : {}),
  });
  for (const screen of screens) {
    const pick = style
      ? pickStyle(markup, style, environmentOf(screen))
      : kind === 'preload'
        ? pickLink([markup], screen)
        : pickImage(parseImage(readImageMarkup(markup) ?? { img: {}, sources: [] }), environmentOf(screen));
    const url = pick && resolveAddress(pick.url, page);
    const file = url === undefined ? undefined : files.get(url);
    if (!pick || !file) throw new Error(`${markup} takes no known file on ${screen.name}`);
    const slot =
      Array.isArray(image.slot) || image.slot === null ? image.slot : (image.slot[screen.name] ?? null);
    const box = slot ?? [0, 0];
    const drawn = drawnSize({ width: box[0], height: box[1] }, naturalSize(file, pick.density), fit);
    const seen = shownOn(screen, {
      url: file.url,
      bytes: file.bytes,
      slot: box,
      file: [file.width, file.height],
      at: [0, y],
      more: {
        fit,
        widthFrom,
        heightFrom,
        drawnWidth: drawn.width,
        drawnHeight: drawn.height,
        seen: slot !== null,
        lazy: / loading="lazy"/.test(markup),
      },
    });
    Object.assign(placement.downloads, seen.downloads);
    if (kind === 'preload') continue;
    Object.assign(placement.slots, slot === null ? { [screen.name]: null } : seen.slots);
    Object.assign(placement.picks, seen.picks);
    Object.assign(placement.shown, seen.shown);
  }
  placement.candidates = [...new Set(Object.values(placement.downloads).map(({ url }) => url))];
  return placement;
}

export const drawnFixes = (site: DrawnSite): Written => writeFixes(judge(checks, drawnWorld(site)));

/** The fixes that save bytes, in their order. */
export const savingFixes = (site: DrawnSite): Fix[] =>
  drawnFixes(site).fixes.filter(({ saves }) => saves.expected > 0);

/** Text on one line. */
export const flat = (text: string | undefined): string =>
  (text ?? '').replace(/\s*\n\s*/g, ' ').replace(/="\s+/g, '="');
