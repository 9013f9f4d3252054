import { reachOfScroll, type ReachCurve } from '../layout/reach.js';
import type { Fix, PageRecord, Screen, ScreenTotals, Totals } from '../run/types.js';

/** What the images of an average visit weigh on each screen, and what they would weigh with all fixes made. */
export function totalsOf(
  pages: readonly PageRecord[],
  screens: readonly Screen[],
  fixes: readonly Fix[],
  reach: ReachCurve,
): Totals {
  const rows = screens.map((screen) => totalsOnScreen(pages, screen, fixes, reach));
  const mean = (value: (row: ScreenTotals) => number) =>
    Math.round(rows.reduce((sum, row, index) => sum + value(row) * (screens[index]?.share ?? 0), 0));
  return {
    screens: rows,
    average: {
      screen: 'average',
      firstView: mean((row) => row.firstView),
      whole: mean((row) => row.whole),
      expected: mean((row) => row.expected),
      expectedAfter: mean((row) => row.expectedAfter),
      allBytes: mean((row) => row.allBytes),
    },
  };
}

function totalsOnScreen(
  pages: readonly PageRecord[],
  { name, height }: Screen,
  fixes: readonly Fix[],
  reach: ReachCurve,
): ScreenTotals {
  const sums = { firstView: 0, whole: 0, expected: 0, allBytes: 0 };
  for (const { weight, visits } of pages) {
    const visit = visits.find(({ screen }) => screen === name);
    if (!visit) continue;
    sums.firstView += weight * visit.firstView.bytes;
    sums.whole += weight * visit.whole.bytes;
    sums.allBytes += weight * visit.allBytes;
    for (const { bytes, began, scrollDepth } of visit.downloads)
      sums.expected +=
        weight * bytes * (began === 'first-view' ? 1 : reachOfScroll(scrollDepth, height, reach));
  }
  const saved = fixes.reduce((sum, { saves }) => sum + (saves.screens[name] ?? 0), 0);
  return {
    screen: name,
    firstView: Math.round(sums.firstView),
    whole: Math.round(sums.whole),
    expected: Math.round(sums.expected),
    expectedAfter: Math.max(0, Math.round(sums.expected) - saved),
    allBytes: Math.round(sums.allBytes),
  };
}
