import { weightsOn } from './visit-weights.js';
import type { LedgerEntry, PageRecord, Screen, ScreenTotals, Totals } from '../run/types.js';

/** What the images of an average visit weigh on each screen, and what they would weigh with all fixes made, by the ledger. */
export function totalsOf(
  pages: readonly PageRecord[],
  screens: readonly Screen[],
  ledger: readonly LedgerEntry[],
): Totals {
  const rows = screens.map((screen) => totalsOnScreen(pages, screen, ledger));
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
      notJudged: mean((row) => row.notJudged),
      byItself: mean((row) => row.byItself),
      allBytes: mean((row) => row.allBytes),
    },
  };
}

function totalsOnScreen(
  pages: readonly PageRecord[],
  { name }: Screen,
  ledger: readonly LedgerEntry[],
): ScreenTotals {
  const weights = weightsOn(pages, name);
  const sums = {
    firstView: 0,
    whole: 0,
    allBytes: 0,
    expected: 0,
    expectedAfter: 0,
    notJudged: 0,
    byItself: 0,
  };
  for (const { path, visits } of pages) {
    const weight = weights.get(path) ?? 0;
    const visit = visits.find(({ screen }) => screen === name);
    if (!visit) continue;
    sums.firstView += weight * visit.firstView.bytes;
    sums.whole += weight * visit.whole.bytes;
    sums.allBytes += weight * visit.allBytes;
    sums.byItself += weight * visit.byItself.bytes;
  }
  for (const { page, screen, placements, expected, expectedRemains } of ledger) {
    if (screen !== name) continue;
    const weight = weights.get(page) ?? 0;
    sums.expected += weight * expected;
    // What no element of the page shows nobody has judged: it may be needed, or not.
    if (placements.length > 0) sums.expectedAfter += weight * expectedRemains;
    else sums.notJudged += weight * expectedRemains;
  }
  return {
    screen: name,
    firstView: Math.round(sums.firstView),
    whole: Math.round(sums.whole),
    expected: Math.round(sums.expected),
    expectedAfter: Math.round(sums.expectedAfter),
    notJudged: Math.round(sums.notJudged),
    byItself: Math.round(sums.byItself),
    allBytes: Math.round(sums.allBytes),
  };
}
