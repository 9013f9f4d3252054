import { chooseLadder } from '../bytes/ladder.js';
import { tellsItsSetting } from '../bytes/own-setting.js';
import { neededWidth } from '../layout/needed-width.js';
import { sizesFromScreens } from '../layout/sizes-from-screens.js';
import { widestDrawn } from '../layout/widest-drawn.js';
import { readImageMarkup } from '../markup/index.js';
import type { ImageFile, Placement, Screen, SlotSweep } from '../run/types.js';
import { resolveAddress } from './addresses.js';
import { shapeDifference } from './shape-difference.js';
import { isFree } from './box.js';
import { isRule } from './style-rule.js';
import { wholeShapeFrom } from './whole-shape.js';
import type { ImageState, SourceState } from './image-state.js';

/** The candidates that one source of a placement should offer, and which of them each screen would take. */
export interface CandidateProposal {
  /** Position of the source in the text as it is. */
  source: number;
  /** The best file that the source offers: the one to make the others from. */
  master: ImageFile;
  /**
   * Of a lossy file: the same picture without losses, where a source of the same condition offers it in another format. What was made of it
   * is made of it again, and held against it: from the lossy file each time a little more would be lost.
   */
  original?: ImageFile;
  /** The attribute that the sweep gave; undefined where there was none or `sizes` cannot say it. */
  sizes?: string;
  /** From the screens alone; undefined where that would change boxes between them. */
  sizesOnScreens: string | undefined;
  /** The one width at which the picture is drawn on every screen, CSS px: then densities say it better. */
  constant?: number;
  /** Device px, ascending, none larger than the master. */
  widths: number[];
  /** Of the screens, ascending, each once. */
  densities: number[];
  /** Ascending by the width of the viewport. */
  bands: Band[];
  /** Device px, by screen. */
  screens: Record<string, { needed: number; width: number }>;
}

/** Up to which width of the viewport, CSS px, a style shows which widths; null for all beyond. */
export interface Band {
  upTo: number | null;
  /** Device px at a density. */
  needed(density: number): number;
}

/** Formats whose pictures can be made again at another width. */
const resizable = new Set(['jpeg', 'png', 'webp', 'avif', 'gif', 'bmp']);

/** Two widths nearer than this ratio are served by the larger one. */
const nearEnough = 1.1;

/**
 * The file to make others from: of those in a format that is really delivered, that with most pixels across, the first of equal ones.
 */
export function masterOf(
  urls: readonly string[],
  delivered: readonly string[],
  files: ReadonlyMap<string, ImageFile>,
): ImageFile | undefined {
  const formats = new Set(delivered.map((url) => files.get(url)?.format));
  let best: ImageFile | undefined;
  for (const url of urls) {
    const file = files.get(url);
    if (formats.size > 0 && !formats.has(file?.format)) continue;
    if (!file || file.problem !== undefined || file.truncated || file.animated || !resizable.has(file.format))
      continue;
    if (!best || file.width > best.width) best = file;
  }
  return best;
}

export interface ProposalInput {
  placement: Placement;
  state: ImageState;
  /** The source that each screen takes its file from, by its position in the text. */
  taken: ReadonlyMap<string, number>;
  screens: readonly Screen[];
  files: ReadonlyMap<string, ImageFile>;
  sweep: SlotSweep | undefined;
}

/** Proposes candidates for each source that a screen takes a file from: each shows a crop of its own, and has its own needs. */
export function proposeCandidates(input: ProposalInput): Map<number, CandidateProposal> {
  const proposals = new Map<number, CandidateProposal>();
  for (const source of input.state.sources) {
    const proposal = source.origin === null ? undefined : proposeFor(source, source.origin, input);
    const original = proposal && originalOf(proposal.master, source, input);
    if (original) proposal.original = original;
    if (proposal) proposals.set(proposal.source, proposal);
  }
  return proposals;
}

function proposeFor(
  { rungs }: SourceState,
  source: number,
  { placement, taken, screens, files, sweep }: ProposalInput,
): CandidateProposal | undefined {
  const served = screens.filter(({ name }) => {
    return taken.get(name) === source && placement.slots[name] && widestDrawn(placement, name) >= 1;
  });
  if (served.length === 0) return undefined;
  const delivered = served.flatMap(({ name }) => placement.downloads[name]?.url ?? []);
  const master = masterOf(
    rungs.map(({ file }) => file.url),
    delivered,
    files,
  );
  if (!master) return undefined;
  const drawn = (name: string) => widestDrawn(placement, name);
  const needs = new Map(
    served.map(({ name, density }) => [name, neededWidth(drawn(name), density, master.width)] as const),
  );
  const widths = widthsFor([...needs.values()], placement, served, master);
  const proposal: CandidateProposal = {
    source,
    master,
    // Where the file gives the width, the box would be as wide between the screens as such a list claims.
    sizesOnScreens: served.some(({ name }) => isFree(placement.shown[name]?.widthFrom))
      ? undefined
      : sizesFromScreens(placement, served),
    widths,
    densities: [...new Set(screens.map(({ density }) => density))].sort((a, b) => a - b),
    bands: isRule(placement.markup ?? '') ? bandsFor(served, drawn) : [bandForAll(served, needs)],
    screens: {},
  };
  if (typeof sweep?.write === 'string') proposal.sizes = sweep.write;
  if (typeof sweep?.constant === 'number') proposal.constant = sweep.constant;
  for (const [name, needed] of needs)
    proposal.screens[name] = { needed, width: widthFor(needed, widths, master) };
  return proposal;
}

/** Two pictures whose ratios differ by more than this are different crops. */
const sameShape = 0.01;

/** The widest lossless file, in another format than its own, of the sources that are taken under the same condition. */
function originalOf(
  master: ImageFile,
  { media, type }: SourceState,
  { state, files }: ProposalInput,
): ImageFile | undefined {
  if (master.lossless || tellsItsSetting(master)) return undefined;
  const beside = state.sources.filter((other) => other.media === media && other.type !== type);
  const urls = beside.flatMap(({ rungs }) => rungs.map(({ file }) => file.url));
  // Beside a list of widths `src` is no candidate, and often the widest file there is.
  const src =
    media === null && state.form.kind === 'tag' ? readImageMarkup(state.markup)?.img.src : undefined;
  if (typeof src === 'string') urls.push(resolveAddress(src, state.base));
  const originals = urls.filter((url) => isOriginal(files.get(url), master));
  return masterOf(originals, [], files);
}

const isOriginal = (file: ImageFile | undefined, made: ImageFile) =>
  file !== undefined && file.lossless && file.width >= made.width && shapeDifference(file, made) <= sameShape;

/** Between two screens the picture may be as wide as on the wider one. */
function bandsFor(served: readonly Screen[], drawn: (name: string) => number): Band[] {
  const byWidth = new Map<number, number>();
  for (const { name, width } of served) byWidth.set(width, Math.max(byWidth.get(width) ?? 0, drawn(name)));
  const sorted = [...byWidth].sort(([a], [b]) => a - b);
  return sorted.map(([width, wide], index) => ({
    upTo: index === sorted.length - 1 ? null : width,
    needed: (density) => wide * density,
  }));
}

/**
 * A style attribute has no conditions, only densities: each shows what the screens of that density need, and no less than those of a lower one:
 * a narrow dense screen tells nothing of wide ones like it.
 */
function bandForAll(served: readonly Screen[], needs: ReadonlyMap<string, number>): Band {
  const lowest = Math.min(...served.map(({ density }) => density));
  return {
    upTo: null,
    needed: (density) =>
      Math.max(
        ...served
          .filter((screen) => screen.density <= Math.max(density, lowest))
          .map(({ name }) => needs.get(name) ?? 0),
      ),
  };
}

const widthFor = (needed: number, widths: readonly number[], { width }: ImageFile) =>
  widths.find((candidate) => candidate >= needed) ?? width;

/** The same proposal with the widths that are worth offering, once their bytes are known. */
export function withLadder(
  proposal: CandidateProposal,
  screens: readonly Screen[],
  bytesAt: (width: number) => number,
): CandidateProposal {
  const demands = screens.flatMap(({ name, share }) => {
    const needed = proposal.screens[name]?.needed;
    const width = needed === undefined ? undefined : widthFor(needed, proposal.widths, proposal.master);
    return width === undefined || share === 0 ? [] : [{ width, weight: share }];
  });
  if (demands.length === 0) return proposal;
  const { widths } = chooseLadder(demands, bytesAt);
  const chosen: CandidateProposal = { ...proposal, widths, screens: {} };
  for (const [name, { needed }] of Object.entries(proposal.screens))
    chosen.screens[name] = { needed, width: widthFor(needed, widths, proposal.master) };
  return chosen;
}

/** Widths of the files that are worth offering, ascending. */
function widthsFor(
  needs: readonly number[],
  { kind, shown }: Placement,
  served: readonly Screen[],
  master: ImageFile,
): number[] {
  // A style names a file for each viewport and density: none of them serves for another.
  if (kind === 'css-image') return [...new Set(needs)].sort((a, b) => a - b);
  const widths = mergeNear(needs);
  // Where the file gives the height, or the width beside a given height, its shape is that of the box.
  const shapesBox = served.some(
    ({ name }) => isFree(shown[name]?.heightFrom) || isFree(shown[name]?.widthFrom),
  );
  return shapesBox ? widths.map((width) => wholeShapeFrom(width, master)) : widths;
}

/** Keeps of near widths the largest. Ascending. */
function mergeNear(needs: readonly number[]): number[] {
  const kept: number[] = [];
  for (const width of [...new Set(needs)].sort((a, b) => b - a)) {
    const above = kept.at(-1);
    if (above === undefined || above / width > nearEnough) kept.push(width);
  }
  return kept.reverse();
}
