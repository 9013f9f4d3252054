import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { shiftEvidence, shiftInWords } from '../../judging/arrival-shift.js';
import { dimensionRemedy, hasDimensions, noticeable } from '../../judging/dimensions.js';
import { Drafts, worst } from '../../judging/drafts.js';
import type { Placement } from '../../run/types.js';
import { pixels } from '../../wording/words.js';

type RoomEvidence = {
  reservedHeight: number;
  finalHeight: number;
  /** Layout-shift value that the image causes when it comes, in the first view. */
  shift: number;
  moved: string | null;
};

/** What is laid out at the size of its file where nothing else gives it one. */
const kinds: ReadonlySet<Placement['kind']> = new Set(['img', 'picture', 'video-poster']);

export const noDimensions = defineCheck<RoomEvidence>({
  id: 'no-dimensions',
  about: {
    title: 'Write width and height',
    means: 'Nothing says how tall the picture will be, so what stands below it jumps when it arrives.',
    evidence:
      'The height reserved while the image was held back, and the height after it came, in CSS px on each screen.',
    fix: 'The tag with the width and height at which the file is laid out by itself (half of its px for a file of density 2); the browser takes their ratio. Where a side would be given by them that must stay free, a style keeps it so.',
    silent: 'When the style sheet reserves the room already, and for images that have no box or do not load.',
  },
  cut: null,
  sureness: 'measured: the box was compared before and after the image came',
  words(draft) {
    const found = worst(draft, ({ reservedHeight, finalHeight }) => Math.abs(finalHeight - reservedHeight));
    if (!found) return '';
    const { reservedHeight, finalHeight } = found.evidence;
    return `No room is kept: on ${found.screen} the box is ${pixels(reservedHeight)} px high while waiting and ${pixels(finalHeight)} px when the image has come.${shiftInWords(found.evidence)}`;
  },
  find(facts) {
    const drafts = new Drafts<RoomEvidence>();
    for (const placement of facts.placements) {
      if (!kinds.has(placement.kind)) continue;
      if (hasDimensions(placement)) continue;
      for (const { name } of facts.screens) {
        const shown = placement.shown[name];
        const slot = placement.slots[name];
        if (shown?.state !== 'drawn' || !slot || slot.height === 0) continue;
        const reservedHeight = shown.whileWaiting?.height ?? 0;
        if (Math.abs(slot.height - reservedHeight) < noticeable) continue;
        drafts.add(placement, name, {
          reservedHeight,
          finalHeight: slot.height,
          ...shiftEvidence(placement, name, facts),
        });
      }
    }
    return drafts.list();
  },
  remedy: ({ placement }, facts) =>
    placement.kind === 'video-poster'
      ? nothingToPaste(
          'Give the video the width and height of its film as attributes: with one of them alone its box follows from the poster until the film comes.',
        )
      : dimensionRemedy(placement, facts),
});
