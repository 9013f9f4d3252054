import { cutOrder } from '../bytes/cuts.js';
import { weightsOn } from '../bytes/visit-weights.js';
import type { Fix, Run } from '../run/types.js';

/** Where the bytes go of the downloads that a fix touches. Expected bytes of an average visit. */
export interface FixLedger {
  delivered: number;
  /** What this fix takes off, in the order of the ledger; negative where they grow. */
  cuts: { kind: string; bytes: number }[];
  /** What other fixes take off the same downloads. */
  byOthers: number;
  /** What is needed: it remains with every fix made. */
  remains: number;
}

/** The ledger of every fix, by its id. */
export function fixLedgers({
  pages,
  screens,
  ledger,
  fixes,
}: Pick<Run, 'pages' | 'screens' | 'ledger' | 'fixes'>): Map<string, FixLedger> {
  const sums = new Map<string, { delivered: number; own: Map<string, number>; all: number; remains: number }>(
    fixes.map(({ id }: Fix) => [id, { delivered: 0, own: new Map(), all: 0, remains: 0 }]),
  );
  for (const { name, share } of screens) {
    const weights = weightsOn(pages, name);
    for (const { page, screen, cuts, expected, expectedRemains } of ledger) {
      if (screen !== name) continue;
      const weight = (weights.get(page) ?? 0) * share;
      for (const id of new Set(cuts.map(({ fix }) => fix))) {
        const sum = sums.get(id);
        if (!sum) continue;
        sum.delivered += weight * expected;
        sum.remains += weight * expectedRemains;
        for (const cut of cuts) {
          sum.all += weight * cut.expected;
          if (cut.fix === id) sum.own.set(cut.kind, (sum.own.get(cut.kind) ?? 0) + weight * cut.expected);
        }
      }
    }
  }
  return new Map(
    [...sums].map(([id, { delivered, own, all, remains }]) => {
      const cuts = cutOrder.flatMap((kind) => {
        const bytes = Math.round(own.get(kind) ?? 0);
        return bytes === 0 ? [] : [{ kind, bytes }];
      });
      const ownSum = [...own.values()].reduce((sum, each) => sum + each, 0);
      return [
        id,
        {
          delivered: Math.round(delivered),
          cuts,
          byOthers: Math.round(all - ownSum),
          remains: Math.round(remains),
        },
      ];
    }),
  );
}
