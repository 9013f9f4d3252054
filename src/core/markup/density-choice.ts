/** A candidate with its normalised density, in device px per CSS px. */
export interface DensityCandidate {
  url: string;
  density: number;
}

/**
 * How a browser chooses among densities. The HTML standard leaves the choice open (4.8.4.3.7 "select an image
 * source", step "in an implementation-defined manner"), so this file is the one place that decides.
 *
 * - `at-least`: the smallest density at or above the screen's, else the largest. Chromium 147 does so.
 * - `geometric-mean`: the lower of two neighbours while the screen's density is below their geometric mean.
 *   Chromium did so before; it may take a smaller file than the screen could use.
 */
export type ChoiceStrategy = 'at-least' | 'geometric-mean';

/** Sorts by density, keeping source order, and keeps the first of each density. Chromium compares float32. */
export function orderByDensity<C extends DensityCandidate>(candidates: readonly C[]): C[] {
  const sorted = [...candidates].sort((a, b) => (a.density === b.density ? 0 : a.density - b.density));
  const kept: C[] = [];
  for (const candidate of sorted) if (kept.at(-1)?.density !== candidate.density) kept.push(candidate);
  return kept;
}

/**
 * Index of the chosen candidate in a list from `orderByDensity`, or -1 for an empty list.
 * @param density the screen's, device px per CSS px
 */
export function chooseDensity(
  ordered: readonly DensityCandidate[],
  density: number,
  strategy: ChoiceStrategy = 'at-least',
): number {
  const last = ordered.length - 1;
  const wanted = Math.fround(density);
  for (let index = 0; index < last; index++) {
    const here = ordered[index]?.density ?? 0;
    const next = ordered[index + 1]?.density ?? 0;
    if (strategy === 'at-least' ? here >= wanted : next > wanted && wanted <= Math.sqrt(here * next))
      return index;
  }
  return last;
}
