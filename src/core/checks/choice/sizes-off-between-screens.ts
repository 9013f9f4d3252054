import { choiceOn, overstates, truthfulFile, understates } from '../../judging/choice.js';
import { writeTruthfulSizes } from '../../judging/claimed-sizes.js';
import { defineCheck } from '../../judging/check.js';
import { Drafts } from '../../judging/drafts.js';
import type { Facts } from '../../judging/facts.js';
import { claimStretches, type ClaimStretch } from '../../judging/sizes-stretches.js';
import type { Placement } from '../../run/types.js';
import { group, pixels } from '../../wording/words.js';

type BetweenEvidence = {
  /** Viewport widths, CSS px. */
  from: number;
  to: number;
  worstAt: number;
  claim: number;
  slot: number;
  claimedWidth: number;
  rightWidth: number;
};

/** Shorter stretches of viewport widths are the rounding of a breakpoint, CSS px. */
const shortest = 40;

/** The stretch at which the claim is farthest off and makes a browser take another file than the truth would. */
function worstStretch(placement: Placement, facts: Facts): BetweenEvidence | undefined {
  const sweep = facts.sweeps.get(placement.id);
  if (!sweep || sweep.write === null) return undefined;
  const source = facts.plan
    .stateOf(placement)
    ?.sources.find(({ rungs }) => rungs.some(({ descriptor }) => 'width' in descriptor));
  if (!source) return undefined;
  const densities = [...new Set(facts.screens.map(({ density }) => density))];
  const off = ({ claim, slot }: ClaimStretch) => Math.abs(claim - slot) / slot;
  const stretches = claimStretches(placement, sweep)
    .filter(({ from, to }) => to - from >= shortest)
    .sort((a, b) => off(b) - off(a));
  for (const { from, to, worstAt, claim, slot } of stretches)
    for (const density of densities) {
      const claimed = truthfulFile(source, claim, density);
      const right = truthfulFile(source, slot, density);
      if (claimed && right && claimed !== right)
        return { from, to, worstAt, claim, slot, claimedWidth: claimed.width, rightWidth: right.width };
    }
  return undefined;
}

/** Whether the claim holds wherever the audit looked: else another check speaks of it, with bytes. */
function holdsOnScreens(placement: Placement, facts: Facts): boolean {
  const choices = facts.screens.flatMap((screen) => choiceOn(placement, screen, facts, 0) ?? []);
  // Where the picture may be cropped, slot and drawn width both count as the truth, and between the screens only the slot is known.
  const isFitted = Object.values(placement.shown).some(({ fit }) => fit !== 'fill');
  return (
    choices.length > 0 && !isFitted && !choices.some((choice) => overstates(choice) || understates(choice))
  );
}

export const sizesOffBetweenScreens = defineCheck<BetweenEvidence>({
  id: 'sizes-off-between-screens',
  about: {
    title: 'Write sizes that hold at every width',
    means:
      'The sizes attribute is right on the screens that were audited, and wrong at widths between them: windows of those widths get a file that is too large or too small.',
    evidence:
      'The stretch of viewport widths, what the attribute claims there and what the slot is in CSS px, and the two files.',
    fix: 'The tag with a sizes list that was fitted at every width from 320 to 2,560 px.',
    silent:
      'When the claim is off on an audited screen, of which the other checks of sizes speak; on stretches of less than 40 px; for pictures that are cropped by their slot; when the truth would make no browser take another file.',
  },
  cut: null,
  sureness: 'measured: the page was swept over all widths',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    if (!evidence) return '';
    const { from, to, worstAt, claim, slot, claimedWidth, rightWidth } = evidence;
    return (
      `At viewport widths of ${group(from)} to ${group(to)} px, between the audited screens, the sizes attribute says ${claim > slot ? 'too much' : 'too little'}: ` +
      `at ${group(worstAt)} px it claims ${pixels(claim)} CSS px for a slot of ${pixels(slot)}, so the ${group(claimedWidth)} px file is taken instead of the ${group(rightWidth)} px one.`
    );
  },
  find(facts) {
    const drafts = new Drafts<BetweenEvidence>();
    for (const placement of facts.placements) {
      if (placement.kind !== 'img' && placement.kind !== 'picture') continue;
      const evidence = holdsOnScreens(placement, facts) ? worstStretch(placement, facts) : undefined;
      if (!evidence) continue;
      for (const { name } of facts.screens)
        if (placement.downloads[name]) drafts.add(placement, name, evidence);
    }
    return drafts.list();
  },
  remedy: writeTruthfulSizes,
});
