import { wasSeen } from '../bytes/visit-weights.js';
import type { Fix, Run } from '../run/types.js';
import { isSameLength } from './box-changes.js';

/** Checks of which a fix changes boxes, because the box was the fault. */
const boxChecks: ReadonlySet<string> = new Set([
  'dimensions-of-another-ratio',
  'stretched',
  'thin-on-narrow-screens',
]);

/** Pages that some fixes change, each with whether the box of an image on it was the fault. */
export function pagesOf(fixes: readonly Fix[]): Map<string, boolean> {
  const pages = new Map<string, boolean>();
  for (const { checks, pages: touched } of fixes) {
    const boxWasTheFault = checks.some((check) => boxChecks.has(check));
    for (const page of touched) pages.set(page, boxWasTheFault || (pages.get(page) ?? false));
  }
  return new Map([...pages].sort(([one], [other]) => (one < other ? -1 : 1)));
}

export interface LayoutChange {
  page: string;
  /** The screen, or the width of the viewport. */
  where: string;
  says: string;
}

/** Pages that came out higher or lower on a screen, though no box on them was the fault. */
export function heightChanges(
  before: Readonly<Run>,
  after: Readonly<Run>,
  pages: ReadonlyMap<string, boolean>,
): LayoutChange[] {
  const changes: LayoutChange[] = [];
  for (const { path, visits } of before.pages) {
    if (pages.get(path) === true) continue;
    for (const visit of visits) {
      const other = after.pages
        .find((page) => page.path === path)
        ?.visits.find(({ screen }) => screen === visit.screen);
      if (!wasSeen(visit)) continue;
      if (!other || !wasSeen(other))
        changes.push({ page: path, where: visit.screen, says: 'it was not seen again' });
      else if (!isSameLength(visit.documentHeight, other.documentHeight))
        changes.push({
          page: path,
          where: visit.screen,
          says: `it is ${other.documentHeight} px high instead of ${visit.documentHeight}`,
        });
    }
  }
  return changes;
}
