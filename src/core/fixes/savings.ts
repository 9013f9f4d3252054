import type { JudgedFinding } from '../checks/judge.js';
import type { PageRecord, Savings, Screen } from '../run/types.js';

/** Sums what findings save over pages and screens, as bytes per average visit. */
export function averageSavings(
  findings: readonly JudgedFinding[],
  pages: readonly PageRecord[],
  screens: readonly Screen[],
): Savings {
  const weights = new Map(pages.map(({ path, weight }) => [path, weight]));
  let firstView = 0;
  let whole = 0;
  const perScreen = new Map<string, number>();
  for (const { draft, taken } of findings) {
    const weight = weights.get(draft.placement.page) ?? 0;
    for (const { name, share } of screens) {
      const bytes = taken[name];
      if (!bytes) continue;
      firstView += weight * share * bytes.firstView;
      whole += weight * share * bytes.whole;
      perScreen.set(name, (perScreen.get(name) ?? 0) + weight * bytes.expected);
    }
  }
  const expected = screens.reduce((sum, { name, share }) => sum + share * (perScreen.get(name) ?? 0), 0);
  return {
    expected: Math.round(expected),
    firstView: Math.round(firstView),
    whole: Math.round(whole),
    screens: Object.fromEntries(screens.map(({ name }) => [name, Math.round(perScreen.get(name) ?? 0)])),
  };
}

/** Layout-shift value that findings cause in an average visit: pages by weight, screens by share. */
export function averageShift(
  findings: readonly JudgedFinding[],
  pages: readonly PageRecord[],
  screens: readonly Screen[],
): number {
  const weights = new Map(pages.map(({ path, weight }) => [path, weight]));
  let sum = 0;
  for (const { draft } of findings)
    for (const { name, share } of screens) {
      const shift = draft.screens[name]?.['shift'];
      if (typeof shift === 'number') sum += (weights.get(draft.placement.page) ?? 0) * share * shift;
    }
  return sum;
}

/** Share of visits, 0 to 1, that meet at least one of the findings: pages by weight, screens by share. */
export function visitsTouched(
  findings: readonly JudgedFinding[],
  pages: readonly PageRecord[],
  screens: readonly Screen[],
): number {
  const met = new Set(
    findings.flatMap(({ draft }) =>
      Object.keys(draft.screens).map((screen) => JSON.stringify([draft.placement.page, screen])),
    ),
  );
  let touched = 0;
  for (const { path, weight } of pages)
    for (const { name, share } of screens)
      if (met.has(JSON.stringify([path, name]))) touched += weight * share;
  return touched;
}
