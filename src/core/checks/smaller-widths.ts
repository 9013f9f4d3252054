import { canBeWorthwhile } from '../bytes/wanted-encodes.js';
import type { Placement, Screen } from '../run/types.js';
import type { Evidence } from './check.js';
import { bytesAtWidth, encodeKey, type Facts } from './facts.js';
import { claimTogether } from './shared-claims.js';
import type { SharedDownload } from './shared-downloads.js';
import { defaultTrifles } from './trifles.js';

/** What the proposed width saves on one screen. Widths in device px. */
export interface WidthEvidence extends Evidence {
  fileWidth: number;
  neededWidth: number;
  proposedWidth: number;
  bytes: number;
  bytesAfter: number;
}

/**
 * What the placements of a shared download save together with the widths that are proposed for them.
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
  const claims = claimTogether(download, (placement) => {
    const proposal = facts.proposals.get(placement.id);
    const width = proposal?.screens[screen.name]?.width;
    if (!proposal || width === undefined || !isOurs(placement)) return undefined;
    if (!canBeWorthwhile(download.bytes, file.width, width, defaultTrifles)) return undefined;
    const bytes = bytesAtWidth(proposal, width, facts.encodes);
    return bytes === undefined ? undefined : { url: encodeKey(proposal.master.url, width), bytes };
  });
  return claims.flatMap(({ placement, saves, sharesWith, instead }) => {
    const proposed = facts.proposals.get(placement.id)?.screens[screen.name];
    if (!proposed) return [];
    const evidence: WidthEvidence = {
      saves,
      ...(sharesWith === undefined ? {} : { sharesWith }),
      fileWidth: file.width,
      neededWidth: proposed.needed,
      proposedWidth: proposed.width,
      bytes: download.bytes,
      bytesAfter: instead.bytes,
    };
    return [{ placement, evidence }];
  });
}
