import type { Shown, Slot } from '../../run/types.js';
import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { lazyEdits } from '../../judging/dimensions.js';
import { sharedDownloads } from '../../judging/shared-downloads.js';
import { isInSomeFirstView, onePicture, toggledWith } from '../../judging/toggle.js';
import { bytesInWords, listed } from '../../wording/words.js';

type UnseenEvidence = {
  url: string;
  bytes: number;
  /** Why it is not seen: it has no box, an empty one, or one out of view. */
  why: string;
};

/** Seen, or about to be: slides that turn by themselves, and what a hover or a class shows in its place. */
const isShown = (shown: Shown | undefined) =>
  shown === undefined || shown.seen || shown.seenLater || shown.concealed || shown.shownByOther === true;

const outOfView = 'its box lies out of view';
const emptyBox = 'the box of its image is empty';
const noBox = 'its image has no box';

function whyUnseen(slot: Slot | null | undefined): string {
  if (!slot) return noBox;
  return slot.width > 0 && slot.height > 0 ? outOfView : emptyBox;
}

export const fetchedNeverShown = defineCheck<UnseenEvidence>({
  id: 'fetched-never-shown',
  about: {
    title: 'Fetch only what is shown',
    means:
      'The file is fetched, but on this screen its image cannot come into view by scrolling: it is hidden, or a slide out of the frame.',
    evidence:
      'The file with its bytes, and whether its image has no box there, an empty one or one out of view, on each screen.',
    fix: 'The tag with loading="lazy" where the image has no box (or stands in what is closed) and is in no first view: browsers do not fetch it then. Of two images of which a style shows one on each screen, and one in some first view, one picture with a media condition, to be put in their place by hand. Slides beside those in view and images with an empty box are fetched lazy or not; what to do is said.',
    silent:
      'When any image of the page shows the file on that screen, at first, by itself within ten seconds of the timers of the page, or where an animation without end moves it; for what a style only makes transparent or invisible in its place; for preloads and icons.',
  },
  cut: 'unneeded',
  sureness: 'observed in the browser, scrolled to the end; slides that a visitor swipes to are fetched then',
  words(draft) {
    const found = worst(draft, ({ bytes }) => bytes);
    if (!found) return '';
    const { url, bytes, why } = found.evidence;
    return `${url} (${bytesInWords(bytes)}) is fetched and never shown on ${listed(Object.keys(draft.screens))}: ${why}.`;
  },
  find(facts) {
    const drafts = new Drafts<UnseenEvidence>();
    for (const { screen, url, bytes, placements } of sharedDownloads(facts.placements)) {
      if (placements.some(({ kind, shown }) => kind === 'icon-link' || isShown(shown[screen]))) continue;
      for (const placement of placements) {
        drafts.add(placement, screen, { url, bytes, why: whyUnseen(placement.slots[screen]) });
      }
    }
    return drafts.list();
  },
  remedy({ placement, screens }, facts) {
    const reasons = Object.values(screens).map(({ why }) => why);
    if (reasons.includes(outOfView))
      return nothingToPaste(
        'Browsers fetch lazy images of a strip that lie beside those in view, so loading="lazy" spares nothing here: let the script that moves the strip put the file into src when its slide comes next.',
      );
    const isTag = placement.kind === 'img' || placement.kind === 'picture';
    const isEverInView = isInSomeFirstView(placement, facts);
    const lazy = isTag && !isEverInView && reasons.includes(noBox) ? lazyEdits(placement, facts) : [];
    if (lazy.length > 0) return { changes: [{ kind: 'edit', edits: lazy }], notes: [] };
    const partner = toggledWith(placement, facts);
    if (partner) {
      const text = onePicture(placement, partner, facts);
      return nothingToPaste(
        'Two images of which a style shows one are both fetched. Write one picture with a media condition in their place, and take the two classes out of the style; lazy they would come late where they are shown.',
        ...(text === undefined ? [] : [`For example: ${text}`]),
      );
    }
    if (isEverInView)
      return nothingToPaste(
        'On another screen it is in the first view, so it must not be lazy: write it as a picture with a media condition, with an empty source for the screens that do not show it.',
      );
    if (isTag && reasons.includes(noBox))
      return nothingToPaste(
        'Give the image its width and height in the style sheet, and loading="lazy": browsers do not fetch it then where it has no box.',
      );
    if (isTag)
      return nothingToPaste(
        'Browsers fetch lazy images with an empty box too, so loading="lazy" spares nothing here: hide the image by “display: none” and make it lazy, or let the script that opens it put the file into src.',
      );
    return placement.kind === 'css-image'
      ? nothingToPaste(
          'Move the declaration under the condition under which the element is shown: browsers fetch images of hidden elements too.',
        )
      : nothingToPaste();
  },
});
