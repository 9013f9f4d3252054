import { readImageMarkup } from '../../markup/index.js';
import { dimensionRemedy, naturalSizeOf, noticeable, otherShape } from '../../judging/dimensions.js';
import { defineCheck } from '../../judging/check.js';
import { shiftEvidence, shiftInWords } from '../../judging/arrival-shift.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { pixels } from '../../wording/words.js';

type RatioEvidence = {
  attributes: string;
  file: string;
  reservedHeight: number;
  finalHeight: number;
  /** Layout-shift value that the image causes when it comes, in the first view. */
  shift: number;
  moved: string | null;
};

export const dimensionsOfAnotherRatio = defineCheck<RatioEvidence>({
  id: 'dimensions-of-another-ratio',
  about: {
    title: 'Write the dimensions of the file',
    means:
      'width and height promise another shape than the file has, so the kept room is wrong and the page jumps all the same.',
    evidence: 'The attributes, the file’s size, and the height of the box before and after the image came.',
    fix: 'The tag with the file’s width and height.',
    silent: 'When the style sheet gives the box its shape, so that the attributes do not matter.',
  },
  cut: null,
  sureness: 'measured: the box was compared before and after the image came',
  words(draft) {
    const found = worst(draft, ({ reservedHeight, finalHeight }) => Math.abs(finalHeight - reservedHeight));
    if (!found) return '';
    const { attributes, file, reservedHeight, finalHeight } = found.evidence;
    return `The attributes say ${attributes}, the file is ${file}: on ${found.screen} the box is ${pixels(reservedHeight)} px high while waiting and ${pixels(finalHeight)} px when the image has come.${shiftInWords(found.evidence)}`;
  },
  find(facts) {
    const drafts = new Drafts<RatioEvidence>();
    for (const placement of facts.placements) {
      if (placement.kind !== 'img') continue;
      const markup = readImageMarkup(placement.markup);
      const [width, height] = [
        Number.parseInt(markup?.img.width ?? '', 10),
        Number.parseInt(markup?.img.height ?? '', 10),
      ];
      const file = naturalSizeOf(placement, facts);
      if (
        !file ||
        !(width > 0 && height > 0) ||
        Math.abs((width * file.height) / (height * file.width) - 1) <= otherShape
      )
        continue;
      for (const { name } of facts.screens) {
        const [shown, slot] = [placement.shown[name], placement.slots[name]];
        if (shown?.state !== 'drawn' || !slot || !shown.whileWaiting) continue;
        const reservedHeight = shown.whileWaiting.height;
        if (Math.abs(slot.height - reservedHeight) < noticeable) continue;
        drafts.add(placement, name, {
          attributes: `${width} × ${height}`,
          file: `${Math.round(file.width)} × ${Math.round(file.height)}`,
          reservedHeight,
          finalHeight: slot.height,
          ...shiftEvidence(placement, name, facts),
        });
      }
    }
    return drafts.list();
  },
  remedy: ({ placement }, facts) => dimensionRemedy(placement, facts),
});
