import type { PictureWrap } from '../run/types.js';
import {
  candidateUrls,
  parseImage,
  readImageMarkup,
  type ImageMarkup,
  type ParsedSource,
} from '../markup/index.js';
import { resolveAddress } from './addresses.js';
import type { FileBook, PlannedFile } from './file-book.js';
import type { TagEdit } from './tag.js';

/** How a candidate is described: by the file's width, or by a density. */
export type Descriptor = { width: number } | { density: number };

/** One file that an element offers. */
export interface Rung {
  file: PlannedFile;
  descriptor: Descriptor;
  /** Stands in `src`, which counts as a candidate of density 1. */
  inSrc: boolean;
}

/** One element that offers files: a `source`, the `img`, an attribute that holds one address, or a condition of a style. */
export interface SourceState {
  /** Position among the elements of the text as it is; null for one that the plan adds. */
  origin: number | null;
  media: string | null;
  type: string | null;
  rungs: readonly Rung[];
  sizes: string | null;
  /** The shape of its files where it is another than the image's, px. */
  dimensions?: { width: number; height: number };
  /** Whether the plan changed what it offers. */
  changed: boolean;
}

/** Names of the attributes of a tag that a script takes a list of files from. */
export interface ScriptAttributes {
  src: string | null;
  srcset: string;
  sizes: string;
  /** Whether the script works out from the box for which width it takes a file. */
  worksOut?: boolean;
}

/** Where the addresses of an image stand: in a tag, in one attribute, in a link, or in a style. */
export type Form =
  /** With the names of the attributes from which a script completes a `picture`. */
  | { kind: 'tag'; names?: ScriptAttributes }
  | { kind: 'link' }
  | { kind: 'attribute'; name: string }
  /** In attributes from which a script completes the tag, by what it writes. */
  | ({ kind: 'list-for-script' } & ScriptAttributes)
  | { kind: 'style'; property: string; layer: number };

/** An image as the plan has it so far: what its text offers, in the order in which a browser walks it. */
export interface ImageState {
  form: Form;
  /** The text as it is; of a `picture` for a script as that completes it. */
  markup: string;
  /** What relative addresses in it are resolved against. */
  base: string;
  /** An address as written, whose way of writing new ones follow. */
  like: string;
  sources: readonly SourceState[];
  /** How a `picture` can be put around an `img` that stands in none; as usual if left out. */
  wrap?: PictureWrap;
  /** Changes of the tag beside its files. */
  edits: readonly TagEdit[];
}

/** Whether the text is an `img` whose files a script reads from attributes, or whose address it writes: all else of it is as in other tags. */
export const isForScript = (form: Form, markup: string): boolean =>
  form.kind === 'list-for-script' || (form.kind === 'attribute' && /^\s*<img\b/i.test(markup));

/**
 * Reads an `img` or a `picture`.
 * @returns undefined where there is none, or where it offers nothing
 */
export function readImageState(markup: string, base: string, book: FileBook): ImageState | undefined {
  const read = readImageMarkup(markup);
  return read && stateOfImage(read, { kind: 'tag' }, markup, base, book);
}

/** What an image offers whose attributes are these, however they came to be. */
export function stateOfImage(
  read: ImageMarkup,
  form: Form,
  markup: string,
  base: string,
  book: FileBook,
): ImageState | undefined {
  const image = parseImage(read);
  const [like] = candidateUrls(image);
  if (like === undefined) return undefined;
  const written = [...read.sources, read.img];
  return {
    form,
    markup,
    base,
    like,
    sources: image.sources.map((source, origin) => ({
      origin,
      media: source.element === 'source' ? (written[origin]?.media ?? null) : null,
      type: source.element === 'source' ? (written[origin]?.type ?? null) : null,
      rungs: rungsOf(source, (url) => book.existing(resolveAddress(url, base))),
      sizes: written[origin]?.sizes ?? null,
      changed: false,
    })),
    edits: [],
  };
}

function rungsOf({ srcset, src }: ParsedSource, fileAt: (url: string) => PlannedFile): Rung[] {
  const candidates = srcset?.candidates ?? [];
  const rungs = candidates.map(({ url, width, density }): Rung => ({
    file: fileAt(url),
    descriptor: width === undefined ? { density: density ?? 1 } : { width },
    inSrc: false,
  }));
  // Where width descriptors are, `src` is no candidate. HTML standard, 4.8.4.3.8.
  if (src !== null && !candidates.some(({ width }) => width !== undefined))
    rungs.push({ file: fileAt(src), descriptor: { density: 1 }, inSrc: true });
  return rungs;
}

/** Elements that show one file, and the attribute that names it. */
export const attributeNames = {
  input: 'src',
  'svg-image': 'href',
  'video-poster': 'poster',
  object: 'data',
} as const;

/** Reads an element whose one attribute names its file. */
export function readAttributeState(
  { markup, base, name, written }: { markup: string; base: string; name: string; written: string },
  book: FileBook,
): ImageState {
  const file = book.existing(resolveAddress(written, base));
  return {
    form: { kind: 'attribute', name },
    markup,
    base,
    like: written,
    sources: [single(file)],
    edits: [],
  };
}

/** A source of one file. */
export function single(file: PlannedFile): SourceState {
  return {
    origin: 0,
    media: null,
    type: null,
    rungs: [{ file, descriptor: { density: 1 }, inSrc: true }],
    sizes: null,
    changed: false,
  };
}

export const hasWidths = ({ rungs }: Pick<SourceState, 'rungs'>) =>
  rungs.some(({ descriptor }) => 'width' in descriptor);

/** Every file that a state offers, in source order. */
export const filesOf = ({ sources }: Pick<ImageState, 'sources'>): PlannedFile[] =>
  sources.flatMap(({ rungs }) => rungs.map(({ file }) => file));

/** The same state with one source replaced. */
export function withSource(
  state: ImageState,
  index: number,
  change: (source: SourceState) => SourceState,
): ImageState {
  return {
    ...state,
    sources: state.sources.map((source, at) =>
      at === index ? { ...change(source), changed: true } : source,
    ),
  };
}
