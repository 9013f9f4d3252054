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
      allBytes: mean((row) => row.allBytes),
    },
  };
}

function totalsOnScreen(
  pages: readonly PageRecord[],
  { name }: Screen,
  ledger: readonly LedgerEntry[],
): ScreenTotals {
  const weights = new Map(pages.map(({ path, weight }) => [path, weight]));
  const sums = { firstView: 0, whole: 0, allBytes: 0, expected: 0, expectedAfter: 0 };
  for (const { weight, visits } of pages) {
    const visit = visits.find(({ screen }) => screen === name);
    if (!visit) continue;
    sums.firstView += weight * visit.firstView.bytes;
    sums.whole += weight * visit.whole.bytes;
    sums.allBytes += weight * visit.allBytes;
  }
  for (const { page, screen, expected, expectedRemains } of ledger) {
    if (screen !== name) continue;
    const weight = weights.get(page) ?? 0;
    sums.expected += weight * expected;
    sums.expectedAfter += weight * expectedRemains;
  }
  return {
    screen: name,
    firstView: Math.round(sums.firstView),
    whole: Math.round(sums.whole),
    expected: Math.round(sums.expected),
    expectedAfter: Math.round(sums.expectedAfter),
    allBytes: Math.round(sums.allBytes),
  };
}
