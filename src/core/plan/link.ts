import {
  parseImage,
  pickImage,
  environmentOf,
  mediaQueriesMatch,
  parseMediaQueryList,
  isSupportedImageType,
} from '../markup/index.js';
import { resolveAddress } from './addresses.js';
import type { FileBook, PlannedFile } from './file-book.js';
import type { ImageState, SourceState } from './image-state.js';
import { hasWidths } from './image-state.js';
import type { Screen } from '../run/types.js';
import { toDecimals } from '../wording/rounding.js';
import { densityOf } from './ladder-rungs.js';
import { attributeOf, editMarkup, type TagEdit } from './tag.js';

/** The candidates of a preload are those of an image. HTML standard, 4.2.4.1 "imagesrcset", "imagesizes". */
export function readLinkState(markup: string, base: string, book: FileBook): ImageState | undefined {
  const value = (name: string) => attributeOf(markup, name);
  const [srcset, href] = [value('imagesrcset'), value('href')];
  const image = parseImage({
    img: { ...(srcset === undefined ? {} : { srcset }), ...(href === undefined ? {} : { src: href }) },
    sources: [],
  });
  const [source] = image.sources;
  const candidates = source?.srcset?.candidates ?? [];
  const like = candidates[0]?.url ?? href;
  if (like === undefined) return undefined;
  const rungs =
    candidates.length > 0
      ? candidates.map(({ url, width, density }) => ({
          file: book.existing(resolveAddress(url, base)),
          descriptor: width === undefined ? { density: density ?? 1 } : { width },
          inSrc: false,
        }))
      : [{ file: book.existing(resolveAddress(like, base)), descriptor: { density: 1 }, inSrc: true }];
  const state: SourceState = {
    origin: 0,
    media: value('media') ?? null,
    type: value('type') ?? null,
    rungs,
    sizes: value('imagesizes') ?? null,
    changed: false,
  };
  return { form: { kind: 'link' }, markup, base, like, sources: [state], edits: [] };
}

/** A link for each of the sources; nothing for none. */
export function writeLinks(
  { markup, sources }: ImageState,
  srcsetOf: (source: SourceState) => string,
  write: (file: PlannedFile) => string,
): string {
  return sources.map((source) => editMarkup(markup, linkEdits(source, srcsetOf, write))).join('\n');
}

function linkEdits(
  source: SourceState,
  srcsetOf: (source: SourceState) => string,
  write: (file: PlannedFile) => string,
): TagEdit[] {
  const [only, ...more] = source.rungs;
  const optional = (name: string, value: string | null): TagEdit =>
    value === null ? { kind: 'remove', name } : { kind: 'set', name, value };
  const single = only && more.length === 0 && !hasWidths(source);
  return [
    optional('href', single ? write(only.file) : null),
    optional('imagesrcset', single ? null : srcsetOf(source)),
    optional('imagesizes', single ? null : source.sizes),
    optional('media', source.media),
    optional('type', source.type),
  ];
}

/** What the first of some links asks for whose condition and type fit a screen. */
export function pickLink(
  links: readonly string[],
  screen: Screen,
): { url: string; density: number } | undefined {
  for (const markup of links) {
    const value = (name: string) => attributeOf(markup, name);
    const [media, type] = [value('media'), value('type')];
    const environment = environmentOf(screen);
    if (type !== undefined && !isSupportedImageType(type)) continue;
    if (media !== undefined && !mediaQueriesMatch(parseMediaQueryList(media), environment)) continue;
    const [srcset, sizes, src] = [value('imagesrcset'), value('imagesizes'), value('href')];
    const pick = pickImage(
      parseImage({
        img: {
          ...(srcset === undefined ? {} : { srcset }),
          ...(sizes === undefined ? {} : { sizes }),
          ...(src === undefined ? {} : { src }),
        },
        sources: [],
      }),
      environment,
    );
    if (pick) return pick;
  }
  return undefined;
}

/**
 * Sources for links that ask for what an image takes: one for each source of it that is taken, under conditions that exclude each other.
 * @param taken positions of the sources that screens take, in the order of the image's sources
 */
export function followingSources(image: ImageState, taken: ReadonlySet<number>): SourceState[] {
  const followed: SourceState[] = [];
  const before: string[] = [];
  image.sources.forEach((source, index) => {
    const { media } = source;
    if (taken.has(index)) {
      const others = before
        .filter((condition) => condition !== media)
        .map((condition) => `(not (${condition}))`);
      const own = media === null ? [] : [others.length > 0 ? `(${media})` : media];
      const parts = [...own, ...others];
      followed.push({
        ...source,
        origin: 0,
        changed: true,
        media:
          parts.length === 0 ? null : parts.length === 1 ? unwrapped(parts[0] ?? '') : parts.join(' and '),
      });
    }
    if (media !== null && !before.includes(media)) before.push(media);
  });
  return image.form.kind === 'style' ? followed.flatMap(byResolution) : followed;
}

/** More than a density of a style, dppx: two links never ask for files of one image. */
const justMore = 0.01;

/**
 * A source of a style as several, each for screens of some densities: of a list a link takes what is nearest, a style what is dense enough.
 * CSS Images Level 4, section 2.4 `image-set()`, as Chromium 147 chooses.
 */
function byResolution(source: SourceState): SourceState[] {
  const { rungs, media } = source;
  if (rungs.length < 2 || hasWidths(source)) return [source];
  const sorted = [...rungs].sort((a, b) => densityOf(a.descriptor) - densityOf(b.descriptor));
  const own = media === null ? [] : [/^not\b/.test(media) ? `(${media})` : media];
  return sorted.map((rung, index) => {
    const below = sorted[index - 1];
    const conditions = [
      ...own,
      ...(below ? [`(min-resolution: ${toDecimals(densityOf(below.descriptor) + justMore, 3)}dppx)`] : []),
      ...(index < sorted.length - 1 ? [`(max-resolution: ${densityOf(rung.descriptor)}dppx)`] : []),
    ];
    return { ...source, rungs: [{ ...rung, descriptor: { density: 1 } }], media: conditions.join(' and ') };
  });
}

/** `(not (x))` alone is written `not (x)`. */
const unwrapped = (condition: string) => /^\((not .*)\)$/.exec(condition)?.[1] ?? condition;
