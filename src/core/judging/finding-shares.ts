import type { Finding, LedgerEntry, Screen, ScreenEvidence } from '../run/types.js';
import type { FixGroup } from './fix-group.js';
import type { Kept } from './judge.js';

/**
 * The findings with their share of the bytes: what a fix takes off a download in one step goes to the first finding of that kind whose
 * image shows the download.
 */
export function shareFindings(
  kept: readonly Kept[],
  groups: readonly FixGroup[],
  ledger: readonly LedgerEntry[],
  screens: readonly Screen[],
): Finding[] {
  const fixOf = new Map(groups.flatMap(({ id, findings }) => findings.map((index) => [index, id] as const)));
  const first = new Map<string, number>();
  kept.forEach(({ check, found, planned }, index) => {
    const key = JSON.stringify([fixOf.get(index), check.cut ?? 'repair', found.placement.id]);
    if (planned && !first.has(key)) first.set(key, index);
  });
  const shares = new Map<string, number>();
  for (const { screen, placements, cuts } of ledger)
    for (const { kind, fix, bytes, expected } of cuts) {
      const owner = placements
        .map((id) => first.get(JSON.stringify([fix, kind, id])))
        .find((index) => index !== undefined);
      if (owner === undefined) continue;
      const key = `${owner} ${screen}`;
      shares.set(key, (shares.get(key) ?? 0) + (kind === 'later' ? expected : bytes));
    }
  return kept.map(({ check, found, says, bytes }, index) => ({
    check: check.id,
    placement: found.placement.id,
    screens: Object.fromEntries(
      screens.flatMap(({ name }) => {
        const evidence = found.screens[name];
        const seen: ScreenEvidence | undefined = evidence && {
          ...evidence,
          ...bytes[name],
          saves: shares.get(`${index} ${name}`) ?? 0,
        };
        return seen ? [[name, seen]] : [];
      }),
    ),
    says,
  }));
}
