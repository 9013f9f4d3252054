import { distanceBelowFold } from '../../layout/fold.js';
import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { dimensionRemedy, hasDimensions } from '../../judging/dimensions.js';
import { bytesInWords, pixels } from '../../wording/words.js';
import { pageView, waitsForScroll } from '../../layout/view-of.js';

type UselessEvidence = {
  reservedHeight: number;
  /** CSS px from the fold to the slot once all images have come. */
  belowFold: number;
  bytes: number;
};

/** Boxes lower than this let the page shrink so far that what lies below seems near, CSS px. */
const noRoom = 2;

export const lazyWithoutRoom = defineCheck<UselessEvidence>({
  id: 'lazy-without-room',
  about: {
    title: 'Give lazy images room',
    means:
      'The image is lazy, but without room for it the page is so short at first that the browser takes it to be near, and fetches it at once.',
    evidence:
      'The height of its box while waiting, how far below the fold it ends up, and that its download began before any scroll.',
    fix: 'The tag with width and height.',
    silent:
      'When the download began after scrolling, or the image ends up so near to the fold that lazy images load there anyway.',
  },
  cut: null,
  sureness: 'observed in the browser',
  words(draft) {
    const found = worst(draft, ({ belowFold }) => belowFold);
    if (!found) return '';
    const { reservedHeight, belowFold, bytes } = found.evidence;
    return `It is lazy, but its box is ${pixels(reservedHeight)} px high while waiting, so its ${bytesInWords(bytes)} are fetched at once; on ${found.screen} it ends up ${pixels(Math.round(belowFold))} px below the fold.`;
  },
  find(facts) {
    const drafts = new Drafts<UselessEvidence>();
    for (const placement of facts.placements) {
      for (const screen of facts.screens) {
        const [shown, download, slot] = [
          placement.shown[screen.name],
          placement.downloads[screen.name],
          placement.slots[screen.name],
        ];
        if (!shown?.lazy || download?.began !== 'first-view' || !slot) continue;
        const reservedHeight = shown.whileWaiting?.height ?? 0;
        const belowFold = distanceBelowFold(slot, pageView(placement, screen));
        if (reservedHeight > noRoom || !waitsForScroll(placement, slot, screen, facts.lazyDistance)) continue;
        drafts.add(placement, screen.name, { reservedHeight, belowFold, bytes: download.bytes });
      }
    }
    return drafts.list();
  },
  remedy: ({ placement }, facts) =>
    hasDimensions(placement)
      ? nothingToPaste(
          'Its tag states its dimensions, but what stands around it is empty until the image comes, as the column of a table that follows from its images is: give that a width in the style sheet.',
        )
      : dimensionRemedy(placement, facts),
});
