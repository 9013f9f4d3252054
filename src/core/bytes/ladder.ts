import { defaultTrifles } from './trifles.js';

/** How often a width is needed. */
export interface WidthDemand {
  /** Device px. */
  width: number;
  /** Share of visits, or any weight above 0. */
  weight: number;
}

export interface LadderStep {
  /** Device px, ascending. */
  widths: number[];
  /** Bytes of the file that each demand gets, weighted mean. */
  expectedBytes: number;
}

export interface Ladder {
  widths: number[];
  expectedBytes: number;
  /** The best ladder of one width, of two, and so on, as far as was looked. */
  steps: LadderStep[];
  /** Why it has no more widths. */
  stopped: 'every-width-offered' | 'next-saves-too-little';
}

/** One more width must save at least this share of the expected bytes. */
export const worthAnotherWidth = 0.05;

/**
 * Chooses the widths that `srcset` should offer: those of the needed widths that make the expected bytes least, where each demand
 * takes the smallest width at or above its own. Dynamic programming over the needed widths, exact; one more width is added as
 * long as it saves a twentieth, or nearly a trifle for one of the demands: else the gap would be found in the text that we wrote.
 * @param bytesAt bytes of the picture at a width; must be above 0
 * @throws {RangeError} without demands
 */
export function chooseLadder(
  demands: readonly WidthDemand[],
  bytesAt: (width: number) => number,
  worth = worthAnotherWidth,
): Ladder {
  const needs = joinEqual(demands);
  if (needs.length === 0) throw new RangeError('A ladder needs at least one demand.');
  const total = needs.reduce((sum, { weight }) => sum + weight, 0);
  const steps: LadderStep[] = [];
  for (const { cost, widths } of bestByCount(needs, bytesAt)) {
    const expectedBytes = cost / total;
    const before = steps.at(-1);
    steps.push({ widths, expectedBytes });
    const savesShare = before && before.expectedBytes - expectedBytes >= worth * before.expectedBytes;
    if (before && !savesShare && !sparesOne(needs, [before.widths, widths], bytesAt)) {
      return { ...before, steps, stopped: 'next-saves-too-little' };
    }
  }
  const last = steps.at(-1) ?? { widths: [], expectedBytes: 0 };
  return { ...last, steps, stopped: 'every-width-offered' };
}

/**
 * A gap is one from a whole trifle on; a ladder is written so that none is left, though its files weigh a little else than what they were
 * made from lets one expect.
 */
const nearlyTrifle = 0.75;

/** Whether one of the demands is spared nearly a trifle, or more, by other widths. */
function sparesOne(
  needs: readonly WidthDemand[],
  [before, after]: readonly [readonly number[], readonly number[]],
  bytesAt: (width: number) => number,
): boolean {
  const { trifleBytes, trifleShare } = defaultTrifles;
  return needs.some(({ width }) => {
    const given = (widths: readonly number[]) => bytesAt(widths.find((each) => each >= width) ?? width);
    const saved = given(before) - given(after);
    return saved >= trifleBytes * nearlyTrifle && saved >= given(before) * trifleShare * nearlyTrifle;
  });
}

function joinEqual(demands: readonly WidthDemand[]): WidthDemand[] {
  const weights = new Map<number, number>();
  for (const { width, weight } of demands) weights.set(width, (weights.get(width) ?? 0) + weight);
  return [...weights].map(([width, weight]) => ({ width, weight })).sort((a, b) => a.width - b.width);
}

/** The cheapest ladder of one width, of two, … . Its last width is always the largest need. */
function* bestByCount(
  needs: readonly WidthDemand[],
  bytesAt: (width: number) => number,
): Generator<{ cost: number; widths: number[] }> {
  const bytes = needs.map(({ width }) => bytesAt(width));
  const weightUpTo = [0];
  for (const { weight } of needs) weightUpTo.push((weightUpTo.at(-1) ?? 0) + weight);
  const segment = (from: number, to: number) =>
    ((weightUpTo[to + 1] ?? 0) - (weightUpTo[from] ?? 0)) * (bytes[to] ?? 0);
  // best[last] = cheapest way to serve needs 0..last with the current count of widths, the last of them at needs[last].
  let best = needs.map((_, last) => ({ cost: segment(0, last), widths: [needs[last]?.width ?? 0] }));
  for (let count = 1; count <= needs.length; count++) {
    const whole = best.at(-1);
    if (whole && Number.isFinite(whole.cost)) yield whole;
    best = needs.map((need, last) => {
      let found = { cost: Number.POSITIVE_INFINITY, widths: [] as number[] };
      for (let before = 0; before < last; before++) {
        const start = best[before];
        if (!start) continue;
        const cost = start.cost + segment(before + 1, last);
        if (cost < found.cost) found = { cost, widths: [...start.widths, need.width] };
      }
      return found;
    });
  }
}
