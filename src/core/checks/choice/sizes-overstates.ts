import { defineCheck } from '../../judging/check.js';
import {
  findOverstated,
  overstatedInWords,
  writeTruthfulSizes,
  type SizesEvidence,
} from '../../judging/claimed-sizes.js';
import { stretchesOff } from '../../judging/sizes-stretches.js';

export const sizesOverstates = defineCheck<SizesEvidence>({
  id: 'sizes-overstates',
  about: {
    title: 'Write the true slot into sizes',
    means:
      'The sizes attribute claims more room than the image gets, so browsers take larger files than they need.',
    evidence:
      'What the attribute claims and what is drawn in CSS px, at which viewport widths they differ, and the two files with their bytes.',
    fix: 'The tag with a sizes list that was fitted at every width from 320 to 2,560 px to the width at which the picture is drawn.',
    silent:
      'When the claim is off by less than a twentieth or 8 px, and when the truth would make no screen take another file.',
  },
  cut: 'fewer-pixels',
  sureness: 'exact: both files are there, and the choice among them is computed as the browser does',
  words(draft, facts, outcomes) {
    const stretches = stretchesOff(draft.placement, facts, 'more');
    return `The sizes attribute says too much${stretches}; ${overstatedInWords(draft, outcomes)}`;
  },
  find: (facts) => findOverstated(facts, true),
  remedy: writeTruthfulSizes,
});
