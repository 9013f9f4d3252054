import { tellsItsSetting } from '../bytes/own-setting.js';
import type { CandidateProposal } from './proposal.js';
import type { FileBook, PlannedFile } from './file-book.js';
import { hasWidths, isForScript, withSource } from './image-state.js';
import type { ImageState, Rung, SourceState } from './image-state.js';
import { makingOf } from './making.js';
import { shapeDifference } from './shape-difference.js';
import { bandsOf, ladderOf } from './ladder-rungs.js';
import { attributeOf, type TagEdit } from './tag.js';
import type { ImageFile, OfferedCrop } from '../run/types.js';

/** One thing that a check wants changed. It claims nothing: what it saves is read off the text. */
export type Change =
  /** Offers the proposed widths instead of what is offered, or beside it. */
  | { kind: 'ladder'; source: number; fill: boolean }
  | { kind: 'sizes'; source: number; text: string }
  /** Offers these files, each with its true width. Addresses from the site's root. */
  | { kind: 'candidates'; source: number; urls: readonly string[]; sizes: string | null }
  /** Stores the files of a source in another way, each that gets lighter by it. */
  | {
      kind: 'reencode';
      source: number;
      from: string;
      format: string;
      recipe: 'equal-looks' | 'cleaned' | 'bare';
    }
  /** Puts a source of another format before one, with a twin of each of its files. */
  | { kind: 'offer-format'; source: number; format: string; recipe: 'equal-looks' | 'animation' }
  /** Puts sources with a crop before all others, for screens that meet a condition. */
  | { kind: 'offer-crop'; url: string; crop: OfferedCrop; media: string; sizes: string }
  | { kind: 'readdress'; from: string; to: string }
  | { kind: 'move-source'; from: number; to: number }
  /** Takes a link out of the page. */
  | { kind: 'drop-link' }
  | { kind: 'edit'; edits: readonly TagEdit[] };

/** What changes are made with. */
export interface Workshop {
  book: FileBook;
  /** By the position of the source in the text as it is. */
  proposals: ReadonlyMap<number, CandidateProposal>;
}

/** @returns undefined where it cannot be made, for instance because nobody knows what its files weigh */
export function applyChange(state: ImageState, change: Change, workshop: Workshop): ImageState | undefined {
  switch (change.kind) {
    case 'edit':
      return editTag(state, change.edits);
    case 'drop-link':
      return state.form.kind === 'link' ? { ...state, sources: [] } : undefined;
    case 'ladder':
      return applyLadder(state, change, workshop);
    case 'sizes':
      return onSource(state, change.source, (source) =>
        hasWidths(source) ? { ...source, sizes: change.text } : undefined,
      );
    case 'candidates':
      return onSource(state, change.source, (source) => ({
        ...source,
        rungs: trueWidths(change.urls, workshop.book),
        sizes: change.sizes ?? source.sizes,
      }));
    case 'reencode':
      return onSource(state, change.source, (source) => reencode(source, change, workshop));
    case 'offer-format':
      return offerFormat(state, change, workshop);
    case 'offer-crop':
      return offerCrop(state, change, workshop.book);
    case 'readdress':
      return readdress(state, change, workshop.book);
    case 'move-source':
      return moveSource(state, change);
  }
}

/** What a tag says already is not written again: nothing would change but its white space. */
function editTag(state: ImageState, wanted: readonly TagEdit[]): ImageState | undefined {
  if (state.form.kind !== 'tag' && !isForScript(state.form, state.markup)) return undefined;
  const isThere = (edit: TagEdit) =>
    edit.kind === 'set' &&
    attributeOf(state.markup, edit.name) === edit.value &&
    !state.edits.some((each) => 'name' in each && each.name === edit.name);
  const edits = wanted.filter((edit) => !isThere(edit));
  return edits.length > 0 ? { ...state, edits: [...state.edits, ...edits] } : undefined;
}

const indexOf = (state: ImageState, origin: number) =>
  state.sources.findIndex((source) => source.origin === origin);

/** Changes the sources that stand for one of the text: a style that was cut into conditions has several. */
function onSource(
  state: ImageState,
  origin: number,
  change: (source: SourceState) => SourceState | undefined,
): ImageState | undefined {
  let next: ImageState | undefined;
  state.sources.forEach((source, index) => {
    const changed = source.origin === origin ? change(source) : undefined;
    if (changed) next = withSource(next ?? state, index, () => changed);
  });
  return next;
}

function applyLadder(
  state: ImageState,
  { source: origin, fill }: Extract<Change, { kind: 'ladder' }>,
  { book, proposals }: Workshop,
): ImageState | undefined {
  const proposal = proposals.get(origin);
  if (!proposal) return undefined;
  if (state.form.kind === 'style') {
    const bands = bandsOf(proposal, state.sources, book);
    return bands && { ...state, sources: bands };
  }
  return onSource(state, origin, (source) => ladderOf(source, state.form, proposal, { book, fill }));
}

/** Files with their widths as descriptors, each once, ascending. */
function trueWidths(urls: readonly string[], book: FileBook): Rung[] {
  const files = [...new Set(urls)].map((url) => book.existing(url)).filter(({ width }) => width > 0);
  return files
    .sort((a, b) => a.width - b.width)
    .map((file) => ({ file, descriptor: { width: file.width }, inSrc: false }));
}

/** The file from which versions of a file are made: the widest of the same picture, so that no loss adds to another. */
export function masterFor(
  file: PlannedFile,
  proposal: CandidateProposal | undefined,
  book: FileBook,
): string {
  const { files, prices } = book.options;
  if (file.recipe !== 'as-is') return file.master;
  const master = proposal && makingOf(proposal).from;
  if (!master || !prices.has(master.url) || master.width < file.width) return file.url;
  const own = files.get(file.url);
  // What a palette has lost in the widest file the others may still have.
  if (own?.lossless && !own.palette && master.palette) return file.url;
  return own && shapeDifference(own, master) <= sameShape ? master.url : file.url;
}

/** Two pictures whose ratios differ by more than this are different crops. */
export const sameShape = 0.02;

/**
 * A lossy file that does not tell how it was encoded is compared at its own size with nothing but itself, by a smaller version: only what
 * is clearly lighter counts, or a file that was made at equal looks would be told to be made again.
 * What it has lost already is cheap to lose once more, so that another format seems lighter than it would be if made from the original.
 * @returns the factor by which the file must be heavier than another encode of it
 */
export function marginOf(
  file: Pick<PlannedFile, 'width' | 'format'>,
  format: string,
  master: Pick<ImageFile, 'format' | 'lossless' | 'quality' | 'width'> | undefined,
): number {
  const ownSize =
    master !== undefined && !master.lossless && !tellsItsSetting(master) && file.width >= master.width;
  if (!ownSize) return 1;
  return file.format === format ? 1.25 : 1.3;
}

/** A version that is lighter, or the file itself where none is. */
export function lighterVersion(
  file: PlannedFile,
  order: { format: string; recipe: 'equal-looks' | 'cleaned' | 'bare' },
  master: string,
  book: FileBook,
): PlannedFile {
  const made =
    file.width > 0 || order.format === 'svg' ? book.make(master, { ...order, width: file.width }) : undefined;
  if (made?.bytes === undefined || file.bytes === undefined) return file;
  const margin =
    order.recipe === 'equal-looks' ? marginOf(file, order.format, book.options.files.get(master)) : 1;
  return made.bytes * margin < file.bytes ? made : file;
}

function reencode(
  source: SourceState,
  { from, format, recipe, source: origin }: Extract<Change, { kind: 'reencode' }>,
  { book, proposals }: Workshop,
): SourceState | undefined {
  const rungs = source.rungs.map((rung): Rung => {
    if (rung.file.format !== from) return rung;
    const master = recipe === 'bare' ? rung.file.master : masterFor(rung.file, proposals.get(origin), book);
    // Metadata is taken out of a file as it is; one that is made has none.
    if (recipe === 'bare' && rung.file.recipe !== 'as-is') return rung;
    return { ...rung, file: lighterVersion(rung.file, { format, recipe }, master, book) };
  });
  if (rungs.every(({ file }, index) => file === source.rungs[index]?.file)) return undefined;
  if (source.type === null || format === from) return { ...source, rungs };
  // A type speaks for all files of its source.
  return rungs.every(({ file }) => file.format === format)
    ? { ...source, rungs, type: `image/${format}` }
    : undefined;
}

function offerFormat(
  state: ImageState,
  { source: origin, format, recipe }: Extract<Change, { kind: 'offer-format' }>,
  { book, proposals }: Workshop,
): ImageState | undefined {
  // A source that is new would be fetched at once, whatever the script waits for.
  if (state.form.kind === 'attribute' || state.form.kind === 'list-for-script') return undefined;
  const sources: SourceState[] = [];
  let added = false;
  for (const source of state.sources) {
    // A style that was cut into conditions has several sources that stand for the one that was there.
    if (source.origin === origin) {
      const twins = source.rungs.map((rung): Rung | undefined => {
        const master = masterFor(rung.file, proposals.get(origin), book);
        const order = { width: rung.file.width, format };
        // A file that is there under the very width spares one.
        const file = book.twin(master, order, 1.005) ?? book.make(master, { ...order, recipe });
        return file && { file, descriptor: rung.descriptor, inSrc: false };
      });
      const rungs = twins.filter((rung) => rung !== undefined);
      if (rungs.length < twins.length || rungs.length === 0) return undefined;
      sources.push({
        ...source,
        origin: null,
        type: `image/${format}`,
        rungs: eachOnce(rungs),
        changed: true,
      });
      added = true;
    }
    sources.push(source);
  }
  return added ? { ...state, sources } : undefined;
}

/** An `src` may say once more what stands in `srcset`. */
const eachOnce = (rungs: readonly Rung[]) =>
  rungs.filter(
    ({ file, descriptor }, index) =>
      rungs.findIndex(
        (other) => other.file === file && JSON.stringify(other.descriptor) === JSON.stringify(descriptor),
      ) === index,
  );

/** Sources of these need no type: whoever does not know another goes on to them, or to what stood there before. */
const shownEverywhere: ReadonlySet<string> = new Set(['jpeg', 'png']);

/** Newer formats come first: a browser takes the first that it knows. */
function offerCrop(
  state: ImageState,
  { url, crop, media, sizes }: Extract<Change, { kind: 'offer-crop' }>,
  book: FileBook,
): ImageState | undefined {
  if (state.form.kind !== 'tag' || state.wrap === 'none') return undefined;
  const formats = [...new Set(crop.files.map(({ format }) => format))];
  const sources = formats.map((format): SourceState => {
    const files = crop.files
      .filter((file) => file.format === format)
      .flatMap((file) => book.cut(url, crop, file) ?? []);
    const rungs = files.map((file): Rung => ({ file, descriptor: { width: file.width }, inSrc: false }));
    const type = shownEverywhere.has(format) ? null : `image/${format}`;
    const { width, height } = crop;
    return { origin: null, media, type, rungs, sizes, dimensions: { width, height }, changed: true };
  });
  if (sources.length === 0 || sources.some(({ rungs }) => rungs.length === 0)) return undefined;
  return { ...state, sources: [...sources, ...state.sources] };
}

function readdress(
  state: ImageState,
  { from, to }: Extract<Change, { kind: 'readdress' }>,
  book: FileBook,
): ImageState | undefined {
  const target = book.existing(to);
  const concerns = ({ rungs }: SourceState) => rungs.some(({ file }) => file.url === from);
  if (!state.sources.some(concerns)) return undefined;
  return {
    ...state,
    sources: state.sources.map((source) =>
      concerns(source)
        ? {
            ...source,
            changed: true,
            rungs: source.rungs.map((rung) => (rung.file.url === from ? { ...rung, file: target } : rung)),
          }
        : source,
    ),
  };
}

function moveSource(
  state: ImageState,
  { from, to }: Extract<Change, { kind: 'move-source' }>,
): ImageState | undefined {
  const moved = state.sources[indexOf(state, from)];
  const before = state.sources[indexOf(state, to)];
  if (!moved || !before || state.form.kind !== 'tag') return undefined;
  const rest = state.sources.filter((source) => source !== moved);
  rest.splice(rest.indexOf(before), 0, moved);
  return { ...state, sources: rest, edits: [...state.edits, { kind: 'move-source', from, to }] };
}
