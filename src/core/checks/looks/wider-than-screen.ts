import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { pixels } from '../../wording/words.js';
import { pageView } from '../../layout/view-of.js';

type WideEvidence = {
  slotWidth: number;
  /** How far the slot reaches beyond the right edge, CSS px. */
  beyond: number;
  scrollsSideways: boolean;
};

/** Rounding and borders, CSS px. */
const tolerance = 1;

export const widerThanScreen = defineCheck<WideEvidence>({
  id: 'wider-than-screen',
  about: {
    title: 'Keep the picture within the screen',
    means:
      'The picture reaches beyond the right edge, so a part of it is out of sight, or the whole page can be pushed sideways.',
    evidence:
      'The width of the slot, how far it reaches beyond the edge in CSS px, and whether the page scrolls sideways.',
    fix: 'max-width: 100 % and height: auto.',
    silent:
      'For slides that lie side by side in a frame of their own, for what a frame cuts at both edges of the screen, and for backgrounds.',
  },
  cut: null,
  sureness: 'measured',
  words(draft) {
    const found = worst(draft, ({ beyond }) => beyond);
    if (!found) return '';
    const { slotWidth, beyond, scrollsSideways } = found.evidence;
    return `On ${found.screen} the slot is ${pixels(slotWidth)} CSS px wide and reaches ${pixels(beyond)} px beyond the edge${scrollsSideways ? '; the page can be pushed sideways' : ''}.`;
  },
  find(facts) {
    const drafts = new Drafts<WideEvidence>();
    const widths = new Map(
      facts.pages.flatMap(({ path, visits }) =>
        visits.map(({ screen, documentWidth }) => [JSON.stringify([path, screen]), documentWidth] as const),
      ),
    );
    for (const placement of facts.placements) {
      if (placement.kind === 'css-image') continue;
      for (const screen of facts.screens) {
        const { name, width } = pageView(placement, screen);
        const [slot, shown] = [placement.slots[name], placement.shown[name]];
        if (!slot || !shown?.seen || slot.width === 0) continue;
        const beyond = slot.x + slot.width - width;
        // What begins outside is moved there on purpose, by a frame of its own.
        if (beyond <= tolerance || slot.x >= width || slot.width <= width) continue;
        const scrollsSideways = (widths.get(JSON.stringify([placement.page, name])) ?? 0) > width + tolerance;
        // What a frame cuts at both edges is larger than it on purpose, as pictures that move or grow are.
        if (slot.x < -tolerance && !scrollsSideways) continue;
        drafts.add(placement, name, { slotWidth: slot.width, beyond, scrollsSideways });
      }
    }
    return drafts.list();
  },
  remedy: () =>
    nothingToPaste(
      'Give the image “max-width: 100%” and “height: auto”, and no fixed width on small screens.',
    ),
});
