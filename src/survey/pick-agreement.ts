import type { PickAgreement, PickDisagreement, Placement } from '../core/run/index.js';

/** Compares predicted with observed picks. Images that were never asked for have nothing to compare. */
export function comparePicks(placements: readonly Placement[], strategy: string): PickAgreement {
  let compared = 0;
  const disagreements: PickDisagreement[] = [];
  for (const { id, kind, picks, shown } of placements) {
    if (kind !== 'img' && kind !== 'picture') continue;
    for (const [screen, { predicted, observed }] of Object.entries(picks)) {
      if (shown[screen]?.state === 'not-loaded') continue;
      compared++;
      if (predicted === observed) continue;
      disagreements.push({ placement: id, screen, predicted, observed, reason: 'not known' });
    }
  }
  return { strategy, compared, agree: compared - disagreements.length, disagreements };
}
