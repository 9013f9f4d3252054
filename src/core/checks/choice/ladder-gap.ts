import { pessimistic } from '../../bytes/price-list.js';
import { choiceOn, overstates } from '../../judging/choice.js';
import { defineCheck } from '../../judging/check.js';
import { truthfulSizes } from '../../judging/claimed-sizes.js';
import { bestOutcome, Drafts } from '../../judging/drafts.js';
import { gapBelow } from '../../judging/ladder-gaps.js';
import type { Facts } from '../../judging/facts.js';
import { priceOfWidth } from '../../plan/making.js';
import type { Placement } from '../../run/types.js';
import { bytesInWords, group } from '../../wording/words.js';

/** Widths in device px. */
type GapEvidence = {
  fileWidth: number;
  neededWidth: number;
  proposedWidth: number;
  source: number;
};

export const ladderGap = defineCheck<GapEvidence>({
  id: 'ladder-gap',
  about: {
    title: 'Fill the gap between the widths',
    means:
      'Between two widths of srcset lies what a screen needs, so it takes the next larger file, which is much too large.',
    evidence:
      'The needed width and that of the file in device px, the bytes of the file and of a real encode at the width that the fix adds.',
    fix: 'The tag with the widths added, and the files to make.',
    silent:
      'When the next larger file costs no more than a trifle, and for images without width descriptors.',
  },
  cut: 'fewer-pixels',
  asksForPixels: true,
  sureness: 'measured: the picture was encoded at these widths, as the file is now',
  words(draft, _, outcomes) {
    const found = bestOutcome(draft, outcomes);
    if (!found) return '';
    const { neededWidth, fileWidth } = found.evidence;
    return (
      `On ${found.screen} ${group(neededWidth)} px are needed, and the next width offered is ${group(fileWidth)} px: ${bytesInWords(found.bytes)}, ` +
      `against ${bytesInWords(found.bytesAfter)} at ${group(found.widthAfter)} px.`
    );
  },
  find(facts) {
    const drafts = new Drafts<GapEvidence>();
    for (const placement of facts.placements) {
      for (const screen of facts.screens) {
        const choice = choiceOn(placement, screen, facts);
        // What a true `sizes` already gives is another check's to say.
        if (!choice || choice.right !== choice.file) continue;
        const gap = gapBelow(placement, screen, choice, facts);
        if (!gap) continue;
        const { proposed, proposal, source } = gap;
        const price = priceOfWidth(proposal, proposed.width, facts.prices);
        if (!price || pessimistic(price) >= (choice.file.bytes ?? 0)) continue;
        drafts.add(placement, screen.name, {
          fileWidth: choice.file.width,
          neededWidth: proposed.needed,
          proposedWidth: proposed.width,
          source,
        });
      }
    }
    return drafts.list();
  },
  remedy(draft, facts) {
    const sources = new Set(Object.values(draft.screens).map(({ source }) => source));
    const sizes = claimsTooMuch(draft.placement, facts) ? (truthfulSizes(draft.placement, facts) ?? []) : [];
    const ladders = [...sources].map((source) => ({ kind: 'ladder', source, fill: true }) as const);
    return {
      changes: [...sizes, ...ladders],
      notes:
        sizes.length === 0
          ? []
          : [
              'The widths offered so far hide that sizes claims too much; among more of them it has to say what is drawn.',
            ],
    };
  },
});

/** Whether `sizes` would make a screen take a larger one of the widths that are added. */
const claimsTooMuch = (placement: Placement, facts: Facts) =>
  facts.screens.some((screen) => {
    const choice = choiceOn(placement, screen, facts);
    return choice !== undefined && overstates(choice);
  });
