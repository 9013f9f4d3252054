import { enoughInView, shareInFirstView } from '../../layout/fold.js';
import { defineCheck, type Draft } from '../../judging/check.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { listed, percent } from '../../wording/words.js';
import { pageView } from '../../layout/view-of.js';

type LazyEvidence = {
  /** Part of the slot's height above the fold, 0 to 1. */
  shareInView: number;
  largestPaint: boolean;
};

/** Icons of this many CSS px each way are trifles whenever they come. */
const smallestSide = 33;

export const lazyInFirstView = defineCheck<LazyEvidence>({
  id: 'lazy-in-first-view',
  about: {
    title: 'Load the first view at once',
    means: 'The image is in the first view but waits until the layout is known before it is even asked for.',
    evidence:
      'The share of the slot above the fold on each screen, and whether the image is the largest paint there.',
    fix: 'The tag without loading="lazy", and with fetchpriority="high" where it is the largest paint.',
    silent:
      'When less than a quarter of the slot is above the fold on every screen, for icons of 32 px or less, and for slides that are cut off by their frame.',
  },
  cut: null,
  sureness: 'measured: the slot was in the first view',
  words(draft) {
    const found = worst(draft, ({ shareInView, largestPaint }) => shareInView + (largestPaint ? 1 : 0));
    if (!found) return '';
    const where = listed(Object.keys(draft.screens));
    const what = found.evidence.largestPaint ? ' and is the largest paint' : '';
    return `It is lazy, but ${percent(found.evidence.shareInView)} of it is in the first view on ${found.screen}${what} (seen on ${where}).`;
  },
  find(facts) {
    const drafts = new Drafts<LazyEvidence>();
    for (const placement of facts.placements) {
      for (const screen of facts.screens) {
        const shown = placement.shown[screen.name];
        const slot = shown?.beforeScroll;
        if (!shown?.lazy || !shown.seen || !slot || Math.min(slot.width, slot.height) < smallestSide)
          continue;
        const shareInView = shareInFirstView(slot, pageView(placement, screen));
        if (shareInView < enoughInView) continue;
        drafts.add(placement, screen.name, { shareInView, largestPaint: shown.largestPaint });
      }
    }
    return drafts.list();
  },
  remedy(draft: Draft<LazyEvidence>, facts) {
    const largest = Object.values(draft.screens).some(({ largestPaint }) => largestPaint);
    const elsewhere = facts.screens.filter(({ name }) => draft.placement.slots[name] && !draft.screens[name]);
    return {
      changes: [
        {
          kind: 'edit',
          edits: [
            { kind: 'remove', name: 'loading' },
            ...(largest ? [{ kind: 'set' as const, name: 'fetchpriority', value: 'high' }] : []),
          ],
        },
      ],
      notes:
        elsewhere.length > 0
          ? [
              `On ${listed(elsewhere.map(({ name }) => name))} it is below the fold and will be fetched at once too.`,
            ]
          : [],
    };
  },
});
