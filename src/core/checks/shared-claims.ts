import type { Placement } from '../run/types.js';
import type { SharedDownload } from './shared-downloads.js';

/** What a placement would fetch instead. */
export interface Instead {
  url: string;
  bytes: number;
}

export interface SharedClaim {
  placement: Placement;
  saves: number;
  /** Set on all but the first: the bytes of a shared download are saved once, by the first placement that shows it. */
  sharesWith?: string;
  instead: Instead;
}

/**
 * What the placements of a shared download save together if each takes another file: the old bytes less those of the new files,
 * each counted once. Nothing while one of them goes on needing the old file.
 */
export function claimTogether(
  group: SharedDownload,
  insteadOf: (placement: Placement) => Instead | undefined,
): SharedClaim[] {
  const remaining = new Map<string, number>();
  const claims: SharedClaim[] = [];
  const [first] = group.placements;
  for (const placement of group.placements) {
    const instead = insteadOf(placement);
    if (!instead) return [];
    remaining.set(instead.url, instead.bytes);
    claims.push({
      placement,
      saves: 0,
      ...(placement === first || !first ? {} : { sharesWith: first.id }),
      instead,
    });
  }
  const after = [...remaining.values()].reduce((sum, bytes) => sum + bytes, 0);
  const [claimant] = claims;
  if (!claimant || after >= group.bytes) return [];
  claimant.saves = group.bytes - after;
  return claims;
}
