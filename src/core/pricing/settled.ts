import { checks } from '../checks/index.js';
import type { World } from '../judging/facts.js';
import { rankFixes } from '../judging/fixes.js';
import { judge } from '../judging/judge.js';
import type { WantedPrice } from './pricing-plan.js';

/** Findings that cost no bytes rank below all others, whatever is measured. */
const byteChecks = checks.filter(({ cut }) => cut !== null);

/**
 * Whether measuring the rest could not change the order of the first fixes: every fix that could still reach among them is measured whole.
 * A fix stands for one template, or for some that share files, so an unmeasured picture can only add to the fixes of the templates that
 * show it, and never more than its own expected bytes, beside what it lifts over the limits of trifles with it.
 * @param world with the prices measured so far, and no guesses for others
 * @param first how many fixes must keep their order
 */
export function isSettled(world: World, rest: readonly WantedPrice[], first: number): boolean {
  const fixes = rankFixes(judge(byteChecks, world));
  const bar = fixes[first - 1]?.expected ?? 0;
  const open = new Map<string, number>();
  for (const { templates, stake } of rest)
    for (const template of templates) open.set(template, (open.get(template) ?? 0) + stake);
  const someReach = (ranked: typeof fixes) =>
    [...open].some(([template, stake]) => mostOf(template, ranked) + stake >= bar);
  // What is a trifle now is none any more once a picture of its template comes that saves much.
  return !someReach(fixes) && !someReach(rankFixes(judge(byteChecks, withoutLimits(world))));
}

const mostOf = (template: string, fixes: ReturnType<typeof rankFixes>): number =>
  Math.max(
    0,
    ...fixes.filter(({ templates }) => templates.includes(template)).map(({ expected }) => expected),
  );

const withoutLimits = (world: World): World => ({
  ...world,
  wishes: { ...world.wishes, trifles: { ...world.wishes.trifles, trifleBytes: 0, trifleShare: 0 } },
});
