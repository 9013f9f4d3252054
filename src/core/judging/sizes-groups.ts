import type { Placement, SlotSweep } from '../run/types.js';
import { claimAt, claimStretches, type ClaimStretch } from './sizes-stretches.js';

/** What a template's images are given, claim and should say, over the width of the viewport. */
export interface SizesGroup {
  template: string;
  /** The first placement stands for the others, whose slots and attribute are the same. */
  placement: Placement;
  places: Placement[];
  sweep: SlotSweep;
  /** The present claim at a viewport width, CSS px; undefined without width descriptors. */
  claimAt(viewport: number): number | undefined;
  off: ClaimStretch[];
}

/** Swept images, those that are alike together, in the order in which they were given. */
export function groupSizes(swept: Iterable<readonly [Placement, SlotSweep]>): SizesGroup[] {
  const groups = new Map<string, SizesGroup>();
  for (const [placement, sweep] of swept) {
    const claims = sweep.pieces.map(({ from }) => claimAt(placement, from));
    const key = JSON.stringify([placement.template, sweep.pieces, sweep.reason, claims]);
    const group = groups.get(key);
    if (group) group.places.push(placement);
    else
      groups.set(key, {
        template: placement.template,
        placement,
        places: [placement],
        sweep,
        claimAt: (viewport) => claimAt(placement, viewport),
        off: claimStretches(placement, sweep),
      });
  }
  return [...groups.values()];
}
