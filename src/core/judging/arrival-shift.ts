import type { Placement, ShiftRelease } from '../run/types.js';
import type { Facts } from './facts.js';
import { count, pixels } from '../wording/words.js';

/** What a placement's image moved when it arrived in the first view of a screen; undefined where it came later or moved nothing. */
export function arrivalShift(placement: Placement, screen: string, facts: Facts): ShiftRelease | undefined {
  const visit = facts.pages
    .find(({ path }) => path === placement.page)
    ?.visits.find((each) => each.screen === screen);
  const release = visit?.shift.releases.find(({ selectors }) => selectors.includes(placement.selector));
  return release && release.score > 0 ? release : undefined;
}

/** The layout shift as evidence: its score, and how it is told. */
export function shiftEvidence(
  placement: Placement,
  screen: string,
  facts: Facts,
): { shift: number; moved: string | null } {
  const release = arrivalShift(placement, screen, facts);
  const [farthest] = release?.moved ?? [];
  if (!release || !farthest) return { shift: 0, moved: null };
  return {
    shift: release.score,
    moved: `${count(release.count, 'thing')} moved when it came, ${farthest.name} by ${pixels(farthest.by)} px`,
  };
}

/** " 12 things moved when it came, main > p by 153 px: layout shift 0.031." or nothing. */
export function shiftInWords({ shift, moved }: { shift: number; moved: string | null }): string {
  return moved === null ? '' : ` ${moved}: layout shift ${shift.toFixed(3)}.`;
}
