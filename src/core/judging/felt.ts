import type { Case } from './check.js';
import type { Facts } from './facts.js';

/** Layout-shift value that findings cause in an average visit: pages by weight, screens by share. Each image counts once. */
export function averageShift(
  cases: readonly Case[],
  { pages, screens }: Pick<Facts, 'pages' | 'screens'>,
): number {
  const weights = new Map(pages.map(({ path, weight }) => [path, weight]));
  const counted = new Set<string>();
  let sum = 0;
  for (const { placement, screens: seen } of cases)
    for (const { name, share } of screens) {
      const shift = seen[name]?.['shift'];
      const key = `${name} ${placement.id}`;
      if (typeof shift !== 'number' || counted.has(key)) continue;
      counted.add(key);
      sum += (weights.get(placement.page) ?? 0) * share * shift;
    }
  return sum;
}

/** Share of visits, 0 to 1, that meet at least one of the findings: pages by weight, screens by share. */
export function visitsTouched(
  cases: readonly Case[],
  { pages, screens }: Pick<Facts, 'pages' | 'screens'>,
): number {
  const met = new Set(
    cases.flatMap(({ placement, screens: seen }) =>
      Object.keys(seen).map((screen) => JSON.stringify([placement.page, screen])),
    ),
  );
  let touched = 0;
  for (const { path, weight } of pages)
    for (const { name, share } of screens)
      if (met.has(JSON.stringify([path, name]))) touched += weight * share;
  return touched;
}

/** What visitors feel most, first; what none of them names comes last. */
const feltFirst: readonly (readonly string[])[] = [
  ['does-not-load', 'file-cut-short'],
  ['no-dimensions', 'dimensions-of-another-ratio', 'art-directed-without-dimensions', 'lazy-without-room'],
  ['main-picture-late', 'lazy-in-first-view'],
  ['blank-while-waiting'],
];

/** How much visitors feel of findings: the higher, the more. */
export function feltRank(checks: readonly string[]): number {
  const place = feltFirst.findIndex((ids) => ids.some((id) => checks.includes(id)));
  return place < 0 ? 0 : feltFirst.length - place;
}
