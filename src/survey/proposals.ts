import type { PriceList } from '../core/bytes/price-list.js';
import { canBeWorthwhile } from '../core/bytes/worthwhile.js';
import type { TrifleLimits } from '../core/checks/index.js';
import { proposeCandidates, withLadder, type CandidateProposal } from '../core/fixes/proposal.js';
import { parseImage, readImageMarkup } from '../core/markup/index.js';
import type { ImageFile, Placement, Screen, SlotSweep } from '../core/run/index.js';

/** Whether the placement has, or should have, width descriptors, so that its `sizes` matters. */
export function wantsSizes(
  placement: Placement,
  files: ReadonlyMap<string, ImageFile>,
  trifles: TrifleLimits,
): boolean {
  if (placement.kind !== 'img' && placement.kind !== 'picture') return false;
  const markup = readImageMarkup(placement.markup);
  const written = markup
    ? parseImage(markup).sources.some(({ srcset }) =>
        srcset?.candidates.some(({ width }) => width !== undefined),
      )
    : false;
  if (written) return true;
  return Object.entries(placement.downloads).some(([screen, { url, bytes }]) => {
    const from = files.get(url)?.width ?? 0;
    // At density 1 the drawn width is what is needed; a rough sieve before the sweep.
    return canBeWorthwhile(bytes, from, placement.shown[screen]?.drawnWidth ?? from, trifles);
  });
}

/** Candidates for every placement, with what the sweep says of its slot. */
export function proposeAll(
  placements: readonly Placement[],
  screens: readonly Screen[],
  files: ReadonlyMap<string, ImageFile>,
  sweeps: readonly SlotSweep[],
): Map<string, CandidateProposal> {
  const written = new Map(sweeps.map((each) => [each.placement, each]));
  const proposals = new Map<string, CandidateProposal>();
  for (const placement of placements) {
    const proposal = proposeCandidates(placement, screens, files);
    if (!proposal) continue;
    const { write, constant } = written.get(placement.id) ?? {};
    if (typeof write === 'string') proposal.sizes = write;
    if (typeof constant === 'number') proposal.constant = constant;
    proposals.set(placement.id, proposal);
  }
  return proposals;
}

/** Keeps of each proposal the widths that are worth offering. */
export function narrowProposals(
  proposals: ReadonlyMap<string, CandidateProposal>,
  screens: readonly Screen[],
  prices: PriceList,
): Map<string, CandidateProposal> {
  return new Map(
    [...proposals].map(([id, proposal]) => {
      const { url, bytes } = proposal.master;
      if (!prices.has(url)) return [id, proposal];
      return [id, withLadder(proposal, screens, (width) => prices.alike(url, width)?.bytes ?? bytes)];
    }),
  );
}
