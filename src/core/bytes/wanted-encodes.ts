import type { CandidateProposal } from '../fixes/proposal.js';
import type { TrifleLimits } from '../checks/trifles.js';
import type { ImageFile, Placement } from '../run/types.js';

export interface WantedEncodes {
  url: string;
  format: string;
  /** Device px, ascending. */
  widths: number[];
}

/**
 * Bytes grow with at most this power of the number of pixels; so a smaller version is never smaller than the file × pixel
 * ratio to this power.
 */
const steepest = 1.03;

/** Whether a narrower version could save more than a trifle, by the steepest curve that real pictures have. */
export function canBeWorthwhile(bytes: number, from: number, to: number, options: TrifleLimits): boolean {
  if (to >= from) return false;
  const most = bytes * (1 - (to / from) ** (2 * steepest));
  return most >= options.trifleBytes && most >= bytes * options.trifleShare;
}

/**
 * The encodes that are needed to price the proposals: for each file its widths, in order of URL. A placement whose downloads
 * cannot shrink by more than a trifle on any screen wants none.
 */
export function wantedEncodes(
  placements: readonly Placement[],
  proposals: ReadonlyMap<string, CandidateProposal>,
  files: ReadonlyMap<string, ImageFile>,
  options: TrifleLimits,
): WantedEncodes[] {
  const wanted = new Map<string, { format: string; widths: Set<number> }>();
  for (const placement of placements) {
    const proposal = proposals.get(placement.id);
    if (!proposal || !isWorthwhile(placement, proposal, files, options)) continue;
    const { master, widths } = proposal;
    const entry = wanted.get(master.url) ?? { format: master.format, widths: new Set<number>() };
    for (const width of widths) if (width < master.width) entry.widths.add(width);
    if (entry.widths.size > 0) wanted.set(master.url, entry);
  }
  return [...wanted]
    .map(([url, { format, widths }]) => ({ url, format, widths: [...widths].sort((a, b) => a - b) }))
    .sort((a, b) => (a.url < b.url ? -1 : 1));
}

function isWorthwhile(
  placement: Placement,
  proposal: CandidateProposal,
  files: ReadonlyMap<string, ImageFile>,
  options: TrifleLimits,
): boolean {
  return Object.entries(placement.downloads).some(([screen, { url, bytes }]) => {
    const from = files.get(url)?.width ?? 0;
    return canBeWorthwhile(bytes, from, proposal.screens[screen]?.needed ?? from, options);
  });
}
