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
 * - `geometric-mean`: of the two neighbours of the screen's density the lower one, while that density is below their
 *   geometric mean; at densities up to 1 always the upper one. Chromium did so before; it may take a smaller file than the
 *   screen could use.
 */
export type ChoiceStrategy = 'at-least' | 'geometric-mean';

/** Sorts by density, keeping source order, and keeps the first of each density. Chromium compares float32. */
export function orderByDensity<C extends DensityCandidate>(candidates: readonly C[]): C[] {
  // Most lists are written in ascending order: then there is nothing to do.
  if (isAscending(candidates)) return candidates as C[];
  const sorted = [...candidates].sort((a, b) => (a.density === b.density ? 0 : a.density - b.density));
  const kept: C[] = [];
  for (const candidate of sorted) if (kept.at(-1)?.density !== candidate.density) kept.push(candidate);
  return kept;
}

function isAscending(candidates: readonly DensityCandidate[]): boolean {
  for (let index = 1; index < candidates.length; index++)
    if (!((candidates[index - 1]?.density ?? 0) < (candidates[index]?.density ?? 0))) return false;
  return true;
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
  const wanted = Math.fround(density);
  const last = ordered.length - 1;
  const enough = ordered.findIndex((candidate) => candidate.density >= wanted);
  if (strategy === 'at-least' || enough <= 0) return enough < 0 ? last : enough;
  const below = ordered[enough - 1]?.density ?? 0;
  const above = ordered[enough]?.density ?? 0;
  const mean = Math.fround(Math.sqrt(Math.fround(below * above)));
  return wanted <= 1 || wanted >= mean ? enough : enough - 1;
}
