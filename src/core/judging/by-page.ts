import type { Placement } from '../run/types.js';

/** Placements by the page that they stand on, in document order: what looks at whole pages need not search all of them each time. */
export function placementsByPage(placements: readonly Placement[]): Map<string, Placement[]> {
  const pages = new Map<string, Placement[]>();
  for (const placement of placements) {
    const own = pages.get(placement.page);
    if (own) own.push(placement);
    else pages.set(placement.page, [placement]);
  }
  return pages;
}
