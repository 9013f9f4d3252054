import { groupBy } from '../grouping.js';
import type { Placement } from '../run/types.js';

/** By the list of all placements: those of each page. */
const known = new WeakMap<readonly Placement[], ReadonlyMap<string, readonly Placement[]>>();

/**
 * The placements of a page, in their order. Sites have tens of thousands of placements: whoever looks for the neighbours of each must not
 * look through all of them each time.
 * @param placements all that are judged, always the same list
 */
export function placementsOn(page: string, placements: readonly Placement[]): readonly Placement[] {
  const byPage = known.get(placements) ?? groupBy(placements, (each) => each.page);
  known.set(placements, byPage);
  return byPage.get(page) ?? [];
}
