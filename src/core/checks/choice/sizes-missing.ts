import { defineCheck } from '../../judging/check.js';
import {
  findOverstated,
  overstatedInWords,
  writeTruthfulSizes,
  type SizesEvidence,
} from '../../judging/claimed-sizes.js';
import { stretchesOff } from '../../judging/sizes-stretches.js';

export const sizesMissing = defineCheck<SizesEvidence>({
  id: 'sizes-missing',
  about: {
    title: 'Write the missing sizes',
    means:
      'Width descriptors without a sizes attribute count as the full width of the viewport, so browsers take larger files than they need.',
    evidence:
      'The width of the viewport that is assumed and the width that is drawn in CSS px, and the two files with their bytes.',
    fix: 'The tag with a sizes list that was fitted at every width from 320 to 2,560 px to the width at which the picture is drawn.',
    silent:
      'When the image is as wide as the viewport, and when the truth would make no screen take another file.',
  },
  cut: 'fewer-pixels',
  sureness: 'exact: both files are there, and the choice among them is computed as the browser does',
  words(draft, facts, outcomes) {
    const stretches = stretchesOff(draft.placement, facts, 'more');
    return `Without a sizes attribute the full width counts, which is too much${stretches}; ${overstatedInWords(draft, outcomes)}`;
  },
  find: (facts) => findOverstated(facts, false),
  remedy: writeTruthfulSizes,
});
