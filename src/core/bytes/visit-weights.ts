import type { PageRecord, VisitRecord } from '../run/types.js';

/** Whether a visit counts: it showed the page, or a part of it. */
export const wasSeen = ({ state }: Pick<VisitRecord, 'state'>) => state === 'complete' || state === 'partial';

/**
 * Each page's share of the visits on one screen, by path; shares of pages that were not seen there go to the others, so that an average
 * is one of what was seen.
 */
export function weightsOn(pages: readonly PageRecord[], screen: string): Map<string, number> {
  const seen = pages.filter(({ visits }) =>
    visits.some((visit) => visit.screen === screen && wasSeen(visit)),
  );
  const sum = seen.reduce((total, { weight }) => total + weight, 0);
  return new Map(seen.map(({ path, weight }) => [path, sum > 0 ? weight / sum : 0]));
}
