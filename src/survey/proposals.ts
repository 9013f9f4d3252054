import { byteCurve } from '../core/bytes/byte-curve.js';
import { canBeWorthwhile } from '../core/bytes/wanted-encodes.js';
import { defaultTrifles } from '../core/checks/index.js';
import { withLadder, type CandidateProposal } from '../core/fixes/proposal.js';
import { parseImage, readImageMarkup } from '../core/markup/index.js';
import type { ImageFile, MeasuredEncode, Placement, Screen } from '../core/run/index.js';

/** Whether the placement has, or should have, width descriptors, so that its `sizes` matters. */
export function wantsSizes(placement: Placement, files: ReadonlyMap<string, ImageFile>): boolean {
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
    return canBeWorthwhile(bytes, from, placement.shown[screen]?.drawnWidth ?? from, defaultTrifles);
  });
}

/** Keeps of each proposal the widths that are worth offering, where enough of them were measured. */
export function narrowProposals(
  proposals: ReadonlyMap<string, CandidateProposal>,
  screens: readonly Screen[],
  encodes: readonly MeasuredEncode[],
): Map<string, CandidateProposal> {
  const measured = new Map<string, { width: number; bytes: number }[]>();
  for (const { url, width, bytes } of encodes)
    measured.set(url, [...(measured.get(url) ?? []), { width, bytes }]);
  return new Map(
    [...proposals].map(([id, proposal]) => {
      const points = measured.get(proposal.master.url);
      if (!points) return [id, proposal];
      const whole = { width: proposal.master.width, bytes: proposal.master.bytes };
      return [id, withLadder(proposal, screens, byteCurve([...points, whole]))];
    }),
  );
}
