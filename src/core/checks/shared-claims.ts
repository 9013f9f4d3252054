import type { Placement } from '../run/types.js';
import type { Facts } from './facts.js';
import { stateOn, type FileState } from './file-state.js';
import type { SharedDownload } from './shared-downloads.js';

export interface SharedClaim {
  placement: Placement;
  saves: number;
  /** Bytes from which it takes: what the findings before left of the download. */
  of: number;
  /** Set on all but the first: the bytes of a shared download are saved once, by the first placement that changes. */
  sharesWith?: string;
  before: FileState;
  leaves: FileState;
}

/**
 * What the placements of a shared download save together if each takes another file: the bytes of all files that they take now,
 * less those that they take then, each file counted once. Nothing where that is no less.
 * @param change gives the new file, or undefined where a placement keeps what it has
 */
export function claimTogether(
  group: SharedDownload,
  facts: Facts,
  change: (placement: Placement, before: FileState) => FileState | undefined,
): SharedClaim[] {
  const before = new Map<string, number>();
  const after = new Map<string, number>();
  const claims: SharedClaim[] = [];
  for (const placement of group.placements) {
    const now = stateOn(placement, group.screen, facts);
    if (!now) return [];
    before.set(now.key, now.bytes);
    const then = change(placement, now);
    after.set((then ?? now).key, (then ?? now).bytes);
    if (!then) continue;
    const [first] = claims;
    claims.push({
      placement,
      saves: 0,
      of: 0,
      ...(first ? { sharesWith: first.placement.id } : {}),
      before: now,
      leaves: then,
    });
  }
  const [claimant] = claims;
  const [whole, remains] = [sumOf(before), sumOf(after)];
  if (!claimant || remains >= whole) return [];
  for (const claim of claims) claim.of = whole;
  claimant.saves = Math.round(whole - remains);
  return claims;
}

const sumOf = (files: ReadonlyMap<string, number>) =>
  [...files.values()].reduce((sum, each) => sum + each, 0);

/** The parts of a claim that the judge reads, as evidence. */
export function claimEvidence({ saves, of, sharesWith, leaves }: SharedClaim): {
  saves: number;
  of: number;
  leaves: FileState;
  sharesWith?: string;
  error: number;
} {
  return { saves, of, leaves, error: leaves.error, ...(sharesWith === undefined ? {} : { sharesWith }) };
}
