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
  readonly #roomless: GrowthOnPages;
  readonly #roomy: GrowthOnPages;

  constructor(readonly facts: Facts) {
    const { placements } = facts;
    const getsRoom = new Set(placements.filter((placement) => this.#getsRoom(placement)));
    this.#roomless = new GrowthOnPages(placements.filter((placement) => !getsRoom.has(placement)));
    this.#roomy = new GrowthOnPages(getsRoom);
  }

  /**
   * CSS px that a placement lies higher before images come: no more than it was seen to move, and no less than what the images that get room do
   * not explain. An image may do more than grow: a column that follows it makes the text beside it narrow and high.
   */
  of({ page, shown }: Placement, screen: string): number {
    const { whileWaiting = null, beforeScroll = null } = shown[screen] ?? {};
    if (!beforeScroll) return 0;
    const left = this.#roomless.above(page, screen, beforeScroll.y);
    if (!whileWaiting) return left;
    const moved = Math.max(0, beforeScroll.y - whileWaiting.y);
    return Math.min(moved, Math.max(left, moved - this.#roomy.above(page, screen, beforeScroll.y)));
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

/** How much images grow once they come, by page and screen. */
class GrowthOnPages {
  readonly #byPage: ReadonlyMap<string, Placement[]>;
  readonly #grown = new Map<string, Grown[]>();

  constructor(placements: Iterable<Placement>) {
    this.#byPage = groupBy(placements, ({ page }) => page);
  }

  /** CSS px by which those above a height of the page grow. */
  above(page: string, screen: string, top: number): number {
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
}

/** How much images grow, from the highest lower edge on. */
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
