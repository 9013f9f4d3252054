import {
  chooseDensity,
  orderByDensity,
  type ChoiceStrategy,
  type DensityCandidate,
} from './density-choice.js';
import type { Environment } from './environment.js';
import { mediaQueriesMatch, parseMediaQueryList, type MediaQuery } from './media-query.js';
import { chooseSize, defaultEntry, parseSizes, type SourceSizeList } from './sizes.js';
import { parseSrcset, type ImageCandidate, type Srcset } from './srcset.js';
import { isSupportedImageType } from './image-types.js';

/** The attributes that choose an image, as written; null or missing where absent. */
export interface SourceAttributes {
  src?: string | null;
  srcset?: string | null;
  sizes?: string | null;
  media?: string | null;
  type?: string | null;
  width?: string | null;
  height?: string | null;
  loading?: string | null;
}

/** One `img` with the `source` elements that stand before it in its `picture`. */
export interface ImageMarkup {
  img: SourceAttributes;
  sources: readonly SourceAttributes[];
}

/** One element of the walk, parsed. */
export interface ParsedSource {
  element: 'source' | 'img';
  srcset: Srcset | null;
  src: string | null;
  sizes: SourceSizeList;
  hasSizes: boolean;
  media: MediaQuery[];
  supported: boolean;
  /** Dimension attributes as written. */
  width: string | null;
  height: string | null;
}

/** Parsed once, picked from many times. */
export interface ParsedImage {
  sources: ParsedSource[];
  lazy: boolean;
}

export interface PickedCandidate extends DensityCandidate {
  /** Width descriptor, device px, if the candidate has one. */
  width?: number;
  /** Stood in `src`, not in `srcset`. */
  fromSrc: boolean;
}

export type PickRule =
  'only-candidate' | 'smallest-that-is-enough' | 'largest-there-is' | 'below-the-mean' | 'source-size-zero';

export interface Pick {
  /** As written in the markup, not resolved. */
  url: string;
  density: number;
  rule: PickRule;
  /** Index in `ParsedImage.sources` of the element that the pick comes from. */
  source: number;
  /** Source size, CSS px; undefined when no candidate has a width descriptor. */
  sourceSize?: number;
  /** Entry of `sizes` that gave it: an index, -1 for auto, -2 for the default 100vw. */
  sizesEntry?: number;
  candidates: PickedCandidate[];
}

export interface PickOptions {
  strategy?: ChoiceStrategy;
  /** The slot's width for `sizes=auto` on a lazy image, CSS px. */
  autoWidth?: number | undefined;
}

/** Parses the attributes of an image and its sources. */
export function parseImage(markup: ImageMarkup): ParsedImage {
  const image = parseSource('img', markup.img);
  const sources = markup.sources.map((source) => parseSource('source', source));
  return {
    lazy: markup.img.loading?.toLowerCase() === 'lazy',
    // Where the image says auto, Chromium takes it for the sources that say nothing.
    sources: [
      ...sources.map((source) =>
        image.sizes.auto && !source.hasSizes ? { ...source, sizes: image.sizes, hasSizes: true } : source,
      ),
      image,
    ],
  };
}

function parseSource(element: 'source' | 'img', attributes: SourceAttributes): ParsedSource {
  const { src, srcset, sizes, media, type } = attributes;
  const isSource = element === 'source';
  return {
    element,
    srcset:
      srcset === null || srcset === undefined || (isSource && srcset === '') ? null : parseSrcset(srcset),
    src: isSource || !src ? null : src,
    sizes: parseSizes(sizes ?? ''),
    hasSizes: sizes !== null && sizes !== undefined,
    media: isSource && media ? parseMediaQueryList(media) : [],
    width: attributes.width ?? null,
    height: attributes.height ?? null,
    supported: !isSource || !type || isSupportedImageType(type),
  };
}

/**
 * Selects an image source. HTML standard, 4.8.4.3.7 "Selecting an image source" and 4.8.4.3.8 "Creating a source set
 * from attributes": sources in order, the first whose media and type match and whose set is not empty; then `img`.
 * @returns undefined when there is nothing to load
 */
export function pickImage(
  image: ParsedImage,
  environment: Environment,
  options: PickOptions = {},
): Pick | undefined {
  for (let index = 0; index < image.sources.length; index++) {
    const source = image.sources[index];
    if (!source) continue;
    if (source.element === 'source') {
      if (!source.srcset || !source.supported || !mediaQueriesMatch(source.media, environment)) continue;
    }
    const pick = pickFrom(source, index, image.lazy, environment, options);
    // A `src` of nothing but white space is a candidate like others, but Chromium loads nothing for it.
    if (pick) return pick.url.trim() === '' ? undefined : pick;
  }
  return undefined;
}

function pickFrom(
  source: ParsedSource,
  index: number,
  lazy: boolean,
  environment: Environment,
  { strategy = 'at-least', autoWidth }: PickOptions,
): Pick | undefined {
  const written = source.srcset?.candidates ?? [];
  const byWidth = written.some(({ width }) => width !== undefined);
  const chosen = byWidth ? chooseSize(source.sizes, environment, lazy ? autoWidth : undefined) : undefined;
  const candidates = normalise(written, chosen?.size);
  // `src` counts as a 1x candidate unless one with a width descriptor is there; it stands last.
  if (source.src && !byWidth) candidates.push({ url: source.src, density: 1, fromSrc: true });
  const ordered = orderByDensity(candidates);
  const winner = chooseDensity(ordered, environment.density, strategy);
  const taken = ordered[winner];
  if (!taken) return undefined;
  const pick: Pick = {
    url: taken.url,
    density: taken.density,
    rule: ruleOf(ordered, winner, environment.density, strategy),
    source: index,
    candidates: ordered,
  };
  if (chosen) {
    pick.sourceSize = chosen.size;
    pick.sizesEntry = source.hasSizes ? chosen.entry : defaultEntry;
  }
  return pick;
}

/** HTML standard, 4.8.4.3.12 "Normalizing the source densities"; Chromium keeps densities as float32. */
function normalise(written: readonly ImageCandidate[], sourceSize: number | undefined): PickedCandidate[] {
  return written.map(({ url, width, density }) => {
    if (width === undefined) return { url, density: Math.fround(density ?? 1), fromSrc: false };
    const size = Math.fround(sourceSize ?? 0);
    return { url, width, density: Math.fround(width / size), fromSrc: false };
  });
}

function ruleOf(
  ordered: readonly PickedCandidate[],
  winner: number,
  density: number,
  strategy: ChoiceStrategy,
): PickRule {
  const taken = ordered[winner];
  if (taken && !Number.isFinite(taken.density)) return 'source-size-zero';
  if (ordered.length === 1) return 'only-candidate';
  if (taken && taken.density >= Math.fround(density)) return 'smallest-that-is-enough';
  return strategy === 'geometric-mean' && winner < ordered.length - 1 ? 'below-the-mean' : 'largest-there-is';
}

/**
 * Every URL that the markup offers, in source order, without repeats: candidates that are dropped for a bad descriptor too, since
 * their files are there and a repaired srcset would use them.
 */
export function candidateUrls(image: ParsedImage): string[] {
  const urls = new Set<string>();
  for (const { srcset, src } of image.sources) {
    for (const { url } of srcset?.candidates ?? []) urls.add(url);
    for (const { url } of srcset?.errors ?? []) urls.add(url);
    if (src) urls.add(src);
  }
  return [...urls].filter((url) => url !== '');
}
