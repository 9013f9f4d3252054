import { pessimistic } from '../bytes/price-list.js';
import { canBeWorthwhile } from '../bytes/worthwhile.js';
import type { Placement, Screen } from '../run/types.js';
import type { Evidence } from './check.js';
import type { Facts } from './facts.js';
import { fileToMake } from './file-state.js';
import { claimEvidence, claimTogether } from './shared-claims.js';
import type { SharedDownload } from './shared-downloads.js';

/** What the proposed width saves on one screen. Widths in device px. */
export interface WidthEvidence extends Evidence {
  fileWidth: number;
  neededWidth: number;
  proposedWidth: number;
  bytes: number;
  bytesAfter: number;
}

/**
 * What the placements of a shared download save together with the widths that are proposed for them, encoded as they are now.
 * @param isOurs whether the finding of a placement is the calling check's to make
 */
export function claimSmallerWidths(
  download: SharedDownload,
  screen: Screen,
  facts: Facts,
  isOurs: (placement: Placement) => boolean,
): { placement: Placement; evidence: WidthEvidence }[] {
  const file = facts.files.get(download.url);
  if (!file || file.width === 0 || file.animated) return [];
  const claims = claimTogether(download, facts, (placement, before) => {
    const proposal = facts.proposals.get(placement.id);
    const width = proposal?.screens[screen.name]?.width;
    if (!proposal || width === undefined || !isOurs(placement)) return undefined;
    if (!canBeWorthwhile(before.bytes, file.width, width, facts.wishes.trifles)) return undefined;
    const price = facts.prices.alike(proposal.master.url, width);
    if (!price || pessimistic(price) >= before.bytes) return undefined;
    return fileToMake(proposal.master.url, proposal.master.format, width, price);
  });
  // A file that one placement goes on needing whole is fetched whatever the others take.
  if (claims.length < download.placements.length) return [];
  return claims.flatMap((claim) => {
    const { placement, before, leaves } = claim;
    const proposed = facts.proposals.get(placement.id)?.screens[screen.name];
    if (!proposed) return [];
    const evidence: WidthEvidence = {
      ...claimEvidence(claim),
      fileWidth: file.width,
      neededWidth: proposed.needed,
      proposedWidth: proposed.width,
      bytes: before.bytes,
      bytesAfter: leaves.bytes,
    };
    return [{ placement, evidence }];
  });
}
