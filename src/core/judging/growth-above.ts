import { groupBy } from '../grouping.js';
import type { Placement } from '../run/types.js';
import { noticeable } from './dimensions.js';
import type { Facts } from './facts.js';

interface Grown {
  /** Lower edge once it has come, CSS px. */
  bottom: number;
  /** Height that it and all above it take only then, CSS px. */
  total: number;
}

/**
 * How far images still push down what stands below them once the plan is made: those for which it can keep no room. Until they come, what lies
 * below is nearer to the first view, and browsers ask for lazy images by where they lie then.
 */
export class GrowthAbove {
  readonly #byPage: ReadonlyMap<string, Placement[]>;
  readonly #grown = new Map<string, Grown[]>();

  constructor(readonly facts: Facts) {
    this.#byPage = groupBy(
      facts.placements.filter((placement) => !this.#getsRoom(placement)),
      ({ page }) => page,
    );
  }

  /** CSS px that a placement lies higher before images come: no more than it was seen to move. */
  of(placement: Placement, screen: string): number {
    const { whileWaiting = null, beforeScroll = null } = placement.shown[screen] ?? {};
    if (!beforeScroll) return 0;
    const above = this.#above(placement.page, screen, beforeScroll.y);
    return whileWaiting ? Math.min(above, Math.max(0, beforeScroll.y - whileWaiting.y)) : above;
  }

  #above(page: string, screen: string, top: number): number {
    const key = JSON.stringify([page, screen]);
    const grown = this.#grown.get(key) ?? growthOf(this.#byPage.get(page) ?? [], screen);
    this.#grown.set(key, grown);
    let [low, high] = [0, grown.length];
    while (low < high) {
      const middle = Math.floor((low + high) / 2);
      if ((grown[middle]?.bottom ?? 0) <= top) low = middle + 1;
      else high = middle;
    }
    return grown[low - 1]?.total ?? 0;
  }

  /** Whether the plan gives it room; what has its room already does not grow. */
  #getsRoom(placement: Placement): boolean {
    const sides = new Set(
      (this.facts.plan.stateOf(placement)?.edits ?? []).flatMap((edit) =>
        edit.kind === 'set' ? [edit.name] : [],
      ),
    );
    return sides.has('width') && sides.has('height');
  }
}

/** Of images without room: how much they grow, from the highest lower edge on. */
function growthOf(placements: readonly Placement[], screen: string): Grown[] {
  const own = placements.flatMap(({ shown }) => {
    const { whileWaiting = null, beforeScroll = null } = shown[screen] ?? {};
    if (!beforeScroll) return [];
    const growth = beforeScroll.height - (whileWaiting?.height ?? 0);
    return growth < noticeable ? [] : [{ bottom: beforeScroll.y + beforeScroll.height, growth }];
  });
  let total = 0;
  return own
    .sort((a, b) => a.bottom - b.bottom)
    .map(({ bottom, growth }) => ({ bottom, total: (total += growth) }));
}
