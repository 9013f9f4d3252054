import { sharpDensity } from '../../layout/sharpness.js';
import { isPulledWide } from '../../layout/pulled-wide.js';
import { choiceOn, understates } from '../../judging/choice.js';
import { defineCheck } from '../../judging/check.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { writeTruthfulSizes } from '../../judging/claimed-sizes.js';
import { stretchesOff } from '../../judging/sizes-stretches.js';
import { group, pixels } from '../../wording/words.js';

type BlurEvidence = {
  claim: number;
  slot: number;
  fileWidth: number;
  rightWidth: number;
  /** Device px drawn for each px of the file. */
  upscale: number;
};

/** Enlarged by less than this nobody sees. */
const visible = 1.1;

export const sizesUnderstates = defineCheck<BlurEvidence>({
  id: 'sizes-understates',
  about: {
    title: 'Write the whole slot into sizes',
    means:
      'The sizes attribute claims less room than the image gets, so browsers take a file that is too small and the picture is blurred.',
    evidence:
      'What the attribute claims and what is drawn in CSS px, the file taken, and by how much it is enlarged.',
    fix: 'The tag with a sizes list that was fitted to the slot at every width from 320 to 2,560 px.',
    silent:
      'When the file taken is enlarged by less than a tenth, when no larger file is offered, and for what is drawn half again as wide as its shape: that box is the fault.',
  },
  cut: null,
  sureness: 'exact: the choice among the files is computed as the browser does',
  words(draft, facts) {
    const found = worst(draft, ({ upscale }) => upscale);
    if (!found) return '';
    const { claim, slot, fileWidth, rightWidth, upscale } = found.evidence;
    const stretches = stretchesOff(draft.placement, facts, 'less');
    return (
      `The sizes attribute says too little${stretches}; on ${found.screen} it claims ${pixels(claim)} CSS px for a slot of ${pixels(slot)}, so the ` +
      `${group(fileWidth)} px file is enlarged ${upscale.toFixed(1)} times where one of ${group(rightWidth)} px is there.`
    );
  },
  find(facts) {
    const drafts = new Drafts<BlurEvidence>();
    for (const placement of facts.placements) {
      for (const screen of facts.screens) {
        const choice = choiceOn(placement, screen, facts);
        const shown = placement.shown[screen.name];
        if (!choice || !understates(choice) || choice.right.width <= choice.file.width) continue;
        if (shown && isPulledWide(shown)) continue;
        const upscale = (choice.drawn * sharpDensity(screen, facts.wishes.sharpness)) / choice.file.width;
        if (upscale < visible) continue;
        const { claim, slot, file, right } = choice;
        drafts.add(placement, screen.name, {
          claim,
          slot,
          fileWidth: file.width,
          rightWidth: right.width,
          upscale,
        });
      }
    }
    return drafts.list();
  },
  remedy: writeTruthfulSizes,
});
