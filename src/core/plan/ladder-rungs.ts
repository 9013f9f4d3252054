import { chooseDensity, orderByDensity } from '../markup/index.js';
import { shapeDifference } from './shape-difference.js';
import { makingOf } from './making.js';
import type { CandidateProposal } from './proposal.js';
import type { FileBook, PlannedFile } from './file-book.js';
import type { Form, Rung, SourceState } from './image-state.js';

/** A file up to so much wider than what is wanted serves as well. */
export const nearEnough = 1.1;

/** A version of the master at a width: one that the source has already, the master itself, or a new one. */
function versionAt(
  width: number,
  proposal: CandidateProposal,
  present: readonly Rung[],
  book: FileBook,
): PlannedFile | undefined {
  const { master } = proposal;
  if (width >= master.width) return itself(master, present, book);
  const fits = ({ file }: Rung) =>
    (file.recipe === 'as-is' || file.recipe === 'bare') &&
    file.format === master.format &&
    file.width >= width &&
    file.width <= width * nearEnough &&
    shapeDifference(file, master) < 0.01;
  const { from, format, recipe } = makingOf(proposal);
  const own = present.filter(fits).sort((a, b) => a.file.width - b.file.width)[0];
  return (
    own?.file ??
    book.twin(master.url, { width, format: master.format }, nearEnough) ??
    book.make(from.url, { width, format, recipe })
  );
}

/** The master as the source offers it, which may be without its metadata by now: a list of widths brings that not back. */
const itself = (
  { url }: CandidateProposal['master'],
  present: readonly Rung[],
  book: FileBook,
): PlannedFile =>
  present.find(({ file }) => file.recipe === 'bare' && file.master === url)?.file ?? book.existing(url);

/**
 * The proposed widths in the place of what a source offers, or beside it.
 * @returns undefined where a file is wanted of which nobody knows what it weighs, or where nothing would change
 */
export function ladderOf(
  source: SourceState,
  form: Form,
  proposal: CandidateProposal,
  { book, fill }: { book: FileBook; fill: boolean },
): SourceState | undefined {
  if (fill) return filled(source, proposal, book);
  const files = proposal.widths.map((width) => versionAt(width, proposal, source.rungs, book));
  const known = files.filter((file) => file !== undefined);
  const [smallest] = known;
  const largest = known.at(-1);
  if (!smallest || !largest || known.length < files.length) return undefined;
  if (form.kind === 'attribute')
    return largest.width < (source.rungs[0]?.file.width ?? 0)
      ? { ...source, rungs: [{ file: largest, descriptor: { density: 1 }, inSrc: true }] }
      : undefined;
  const densities = tidyDensities(known, proposal.constant);
  if (densities && source.origin !== null)
    return {
      ...source,
      sizes: null,
      rungs: known.map((file, index) => ({
        file,
        descriptor: { density: densities[index] ?? 1 },
        // What browsers without srcset take: the smallest will do.
        inSrc: index === 0,
      })),
    };
  const sizes = proposal.sizes ?? proposal.sizesOnScreens;
  if (sizes === undefined) return undefined;
  return {
    ...source,
    sizes,
    rungs: known.map((file) => ({ file, descriptor: { width: file.width }, inSrc: false })),
  };
}

/** Beyond this a picture would be laid out visibly larger or smaller by itself. */
const tidy = 0.01;

/**
 * Densities for files of a picture that is always drawn at one width: they need no `sizes` that could go wrong. Only where they are those
 * that screens have, and where one is 1.
 * @param constant CSS px
 */
function tidyDensities(files: readonly PlannedFile[], constant: number | undefined): number[] | undefined {
  if (constant === undefined || constant <= 0) return undefined;
  const exact = files.map(({ width }) => width / constant);
  const rounded = exact.map((density) => Math.round(density * 2) / 2);
  const close = exact.every((density, index) => Math.abs(density / (rounded[index] || 1) - 1) <= tidy);
  return close && rounded[0] === 1 ? rounded : undefined;
}

/** The candidates there are, with those of the proposal that no present one is near to. */
function filled(source: SourceState, proposal: CandidateProposal, book: FileBook): SourceState | undefined {
  // A width may be a little more than is needed, for the sake of whole pixels.
  const neededOf = (width: number) =>
    Math.max(0, ...Object.values(proposal.screens).map((each) => (each.width === width ? each.needed : 0))) ||
    width;
  const isNear = (width: number) =>
    source.rungs.some(({ file }) => file.width >= neededOf(width) && file.width <= width * nearEnough);
  const missing = proposal.widths.filter((width) => !isNear(width) && width < proposal.master.width);
  const added = missing.flatMap((width): Rung[] => {
    const file = versionAt(width, proposal, [], book);
    return file ? [{ file, descriptor: { width: file.width }, inSrc: false }] : [];
  });
  if (added.length === 0) return undefined;
  const width = ({ descriptor }: Rung) => ('width' in descriptor ? descriptor.width : 0);
  return { ...source, rungs: [...source.rungs, ...added].sort((a, b) => width(a) - width(b)) };
}

/**
 * What a style shows up to a width of the viewport, file by density. What it offers to browsers that do not know the type of these files stays
 * beside each of them.
 * @param now what it shows now
 */
export function bandsOf(
  proposal: CandidateProposal,
  now: readonly SourceState[],
  book: FileBook,
): SourceState[] | undefined {
  const { widths, bands, densities } = proposal;
  const present = now.flatMap(({ rungs }) => rungs);
  const others = now.filter(({ origin }) => origin !== proposal.source);
  const own = now.find(({ origin }) => origin === proposal.source);
  const sources: SourceState[] = [];
  for (const { upTo, needed } of bands) {
    const chosen: { density: number; file: PlannedFile }[] = [];
    for (const density of densities) {
      const wanted = needed(density) * 0.999;
      const width = widths.find((each) => each >= wanted) ?? widths.at(-1) ?? proposal.master.width;
      const file = versionAt(width, proposal, present, book);
      if (!file) return undefined;
      chosen.push({ density, file });
    }
    const rungs = byDensity(chosen);
    const source: SourceState = {
      origin: proposal.source,
      media: upTo === null ? null : `(max-width: ${upTo}px)`,
      type: others.length > 0 ? (own?.type ?? null) : null,
      rungs,
      sizes: null,
      changed: true,
    };
    const before = sources.at(-1);
    // Neighbours that show the same need no condition between them.
    if (before && sameRungs(before.rungs, rungs)) sources.splice(-1, 1, source);
    else sources.push(source);
  }
  if (sources.length === 0) return undefined;
  return sources.flatMap((source) => [source, ...others.map((other) => beside(other, source))]);
}

/** What another type offers under a condition: at each density that the new files have, what it shows there now. */
const beside = (other: SourceState, { media, rungs }: SourceState): SourceState => ({
  ...other,
  media,
  rungs: rungs.map(({ descriptor }) => ({ ...rungAt(other.rungs, densityOf(descriptor)), descriptor })),
});

/** 1 where it tells a width. */
export const densityOf = (descriptor: Rung['descriptor']) =>
  'density' in descriptor ? descriptor.density : 1;

function rungAt(rungs: readonly Rung[], density: number): Rung {
  const ordered = orderByDensity(
    rungs.map((rung) => ({ rung, url: rung.file.url, density: densityOf(rung.descriptor) })),
  );
  const rung = ordered[chooseDensity(ordered, density)]?.rung;
  if (!rung) throw new RangeError('A source offers no file.');
  return rung;
}

/**
 * Each file once. Of the densities at or above its own a screen takes the smallest: a file that serves several stands at the largest of
 * them, the last one, which denser screens take too, at the smallest.
 */
function byDensity(chosen: readonly { density: number; file: PlannedFile }[]): Rung[] {
  const last = chosen.at(-1)?.file;
  return chosen
    .filter(({ file }, index) => file !== chosen[file === last ? index - 1 : index + 1]?.file)
    .map(({ density, file }) => ({ file, descriptor: { density }, inSrc: false }));
}

const sameRungs = (a: readonly Rung[], b: readonly Rung[]) =>
  a.length === b.length &&
  a.every(
    ({ file, descriptor }, index) =>
      file === b[index]?.file && JSON.stringify(descriptor) === JSON.stringify(b[index]?.descriptor),
  );
