import { chooseLadder } from '../bytes/ladder.js';
import { neededWidth } from '../layout/needed-width.js';
import type { ImageFile, Placement, Screen } from '../run/types.js';

/** The candidates that a placement should offer, and which of them each screen would take. */
export interface CandidateProposal {
  /** The best source there is: the file to make the others from. */
  master: ImageFile;
  /** The attribute that the sweep gave; undefined where there was none or `sizes` cannot say it. */
  sizes?: string;
  /** The one width that the slot has on every screen, CSS px: then densities say it better. */
  constant?: number;
  /** Device px, ascending, none larger than the master. */
  widths: number[];
  screens: Record<string, { needed: number; width: number }>;
}

/** Formats whose pictures can be made again at another width. */
const resizable = new Set(['jpeg', 'png', 'webp', 'avif']);

/** Two widths nearer than this ratio are served by the larger one. */
const nearEnough = 1.1;

/**
 * The file to make others from: of those in a format that is really delivered, that with most pixels across, the first of equal ones.
 */
export function masterOf(placement: Placement, files: ReadonlyMap<string, ImageFile>): ImageFile | undefined {
  let best: ImageFile | undefined;
  const delivered = new Set(Object.values(placement.downloads).map(({ url }) => files.get(url)?.format));
  for (const url of placement.candidates) {
    const file = files.get(url);
    if (delivered.size > 0 && !delivered.has(file?.format)) continue;
    if (!file || file.problem !== undefined || file.animated || !resizable.has(file.format)) continue;
    if (!best || file.width > best.width) best = file;
  }
  return best;
}

/** Proposes candidates from the widths that the screens need. */
export function proposeCandidates(
  placement: Placement,
  screens: readonly Screen[],
  files: ReadonlyMap<string, ImageFile>,
): CandidateProposal | undefined {
  const master = masterOf(placement, files);
  if (!master) return undefined;
  const needs = new Map<string, number>();
  for (const { name, density } of screens) {
    const shown = placement.shown[name];
    if (!placement.slots[name] || !shown || shown.drawnWidth < 1) continue;
    needs.set(name, neededWidth(shown.drawnWidth, density, master.width));
  }
  if (needs.size === 0) return undefined;
  const widths = mergeNear([...needs.values()]);
  const proposal: CandidateProposal = { master, widths, screens: {} };
  for (const [name, needed] of needs)
    proposal.screens[name] = { needed, width: widthFor(needed, widths, master) };
  return proposal;
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

/** Keeps of near widths the largest. Ascending. */
function mergeNear(needs: readonly number[]): number[] {
  const kept: number[] = [];
  for (const width of [...new Set(needs)].sort((a, b) => b - a)) {
    const above = kept.at(-1);
    if (above === undefined || above / width > nearEnough) kept.push(width);
  }
  return kept.reverse();
}
