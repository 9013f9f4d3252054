import type { Fix, Run } from '../run/types.js';
import { growth, type ByChange, type Pair } from './change.js';

export interface ComparedFix {
  id: string;
  title: string;
  /** Expected bytes of an average visit that it saves. */
  saves: Pair;
}

/** Fixes have the same name where they edit the same texts; one of another name is the same where most of its places are. */
export function compareFixes(
  before: Readonly<Run>,
  after: Readonly<Run>,
  matched: ReadonlyMap<string, string>,
  noiseBytes: number,
): ByChange<ComparedFix> {
  const open = new Map(before.fixes.map((fix) => [fix.id, fix]));
  const kept = new Set(after.fixes.map(({ id }) => id));
  const byPlacement = new Map<string, Fix[]>();
  for (const fix of before.fixes)
    if (!kept.has(fix.id))
      for (const { placement } of fix.places)
        byPlacement.set(placement, [...(byPlacement.get(placement) ?? []), fix]);
  const sameAs = (fix: Fix): Fix | undefined => {
    const own = open.get(fix.id);
    if (own) return own;
    const votes = new Map<Fix, number>();
    for (const { placement } of fix.places)
      for (const then of byPlacement.get(matched.get(placement) ?? '') ?? [])
        if (open.has(then.id) && then.checks.some((check) => fix.checks.includes(check)))
          votes.set(then, (votes.get(then) ?? 0) + 1);
    const [best] = [...votes].sort(([, a], [, b]) => b - a);
    return best && best[1] * 2 > fix.places.length ? best[0] : undefined;
  };
  const changes: ByChange<ComparedFix> = { appeared: [], worse: [], better: [], went: [] };
  for (const fix of after.fixes) {
    const then = sameAs(fix);
    if (then) open.delete(then.id);
    const saves = { before: then?.saves.expected ?? 0, after: fix.saves.expected };
    const compared = { id: fix.id, title: fix.title, saves };
    if (!then) changes.appeared.push(compared);
    else if (growth(saves) >= noiseBytes) changes.worse.push(compared);
    else if (growth(saves) <= -noiseBytes) changes.better.push(compared);
  }
  for (const { id, title, saves } of open.values())
    changes.went.push({ id, title, saves: { before: saves.expected, after: 0 } });
  return changes;
}
