import { neededWidth } from '../layout/needed-width.js';
import type { ImageFile, Placement, Screen } from '../run/types.js';

/** The candidates that a placement should offer, and which of them each screen would take. */
export interface CandidateProposal {
  /** The best source there is: the file to make the others from. */
  master: ImageFile;
  /** Device px, ascending, none larger than the master. */
  widths: number[];
  screens: Record<string, { needed: number; width: number }>;
}

/** Formats whose pictures can be made again at another width. */
const resizable = new Set(['jpeg', 'png', 'webp', 'avif']);

/** Two widths nearer than this ratio are served by the larger one. */
const nearEnough = 1.1;

/** The largest readable file of a placement: that with most pixels across, the first of equal ones. */
export function masterOf(placement: Placement, files: ReadonlyMap<string, ImageFile>): ImageFile | undefined {
  let best: ImageFile | undefined;
  for (const url of placement.candidates) {
    const file = files.get(url);
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
  for (const [name, needed] of needs) {
    const width = widths.find((candidate) => candidate >= needed) ?? master.width;
    proposal.screens[name] = { needed, width };
  }
  return proposal;
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
