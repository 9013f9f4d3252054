import type { Change } from '../plan/changes.js';
import type { CandidateProposal } from '../plan/proposal.js';
import type { Placement, Screen } from '../run/types.js';
import { choiceOn, type Choice } from './choice.js';
import type { Facts } from './facts.js';

/** A file a little wider than what is needed leaves no gap. More than ladders are written to: what was written has none. */
const nearEnough = 1.2;

/** A width between those that are offered, which a screen could do with. */
export interface LadderGap {
  /** Of the widths that a source could offer. */
  proposed: CandidateProposal['screens'][string];
  /** That of the source. */
  proposal: CandidateProposal;
  /** Position of the source. */
  source: number;
}

/** The gap that makes a screen take the larger of two files, if `sizes` says the truth; undefined where there is none. */
export function gapBelow(
  placement: Placement,
  screen: Screen,
  { source, right }: Choice,
  { plan }: Facts,
): LadderGap | undefined {
  const proposal = source.origin === null ? undefined : plan.proposals(placement).get(source.origin);
  const proposed = proposal?.screens[screen.name];
  if (!proposal || !proposed || source.origin === null || proposed.width * nearEnough >= right.width)
    return undefined;
  return { proposed, proposal, source: source.origin };
}

/** The widths to add where a true `sizes` makes a screen take a heavier file, and one between would do. */
export function fillBelowTruth(placement: Placement, facts: Facts): Change[] {
  const sources = new Set<number>();
  for (const screen of facts.screens) {
    const choice = choiceOn(placement, screen, facts);
    if (!choice || (choice.right.bytes ?? 0) <= (choice.file.bytes ?? 0)) continue;
    const gap = gapBelow(placement, screen, choice, facts);
    if (gap) sources.add(gap.source);
  }
  return [...sources].map((source) => ({ kind: 'ladder', source, fill: true }));
}
