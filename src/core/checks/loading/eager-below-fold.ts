import { distanceBelowFold } from '../../layout/fold.js';
import { reachAt } from '../../layout/reach.js';
import type { Placement } from '../../run/types.js';
import { defineCheck } from '../../judging/check.js';
import { lazyEdits } from '../../judging/dimensions.js';
import { Drafts, worst } from '../../judging/drafts.js';
import type { Facts } from '../../judging/facts.js';
import { sharedDownloads, type SharedDownload } from '../../judging/shared-downloads.js';
import { bytesInWords, percent, pixels } from '../../wording/words.js';
import { pageView, screenfulsTo, windowOf } from '../../layout/view-of.js';

type FoldEvidence = {
  /** CSS px from the fold to the slot. */
  belowFold: number;
  bytes: number;
  reachAfter: number;
};

/** Whether the placement could be lazy: on no screen does it reach into the first view. */
function neverInFirstView(placement: Placement, facts: Facts): boolean {
  return facts.screens.every((screen) => {
    const slot = placement.shown[screen.name]?.beforeScroll;
    return !slot || slot.width === 0 || distanceBelowFold(slot, pageView(placement, screen)) > 0;
  });
}

function examine(group: SharedDownload, facts: Facts, drafts: Drafts<FoldEvidence>): void {
  const own = facts.screens.find(({ name }) => name === group.screen);
  const [first] = group.placements;
  if (!own || !first) return;
  const screen = pageView(first, own);
  const claimants: { placement: Placement; top: number; bytes: number }[] = [];
  for (const placement of group.placements) {
    const shown = placement.shown[screen.name];
    const slot = shown?.beforeScroll;
    // One placement that needs the file early keeps it early for all.
    if (!slot || !facts.plan.wouldWait(placement, screen.name)) return;
    if (shown.lazy) continue;
    const taken = facts.plan.taken(placement, screen.name);
    const tag = placement.kind === 'img' || placement.kind === 'picture';
    if (!taken?.inFirstView || !tag || !neverInFirstView(placement, facts)) return;
    claimants.push({ placement, top: slot.y, bytes: taken.bytes });
  }
  const nearest = Math.min(...claimants.map(({ top }) => top));
  const reachAfter = reachAt(screenfulsTo(nearest, windowOf(first, own), facts.lazyDistance), facts.reach);
  for (const { placement, top, bytes } of claimants)
    drafts.add(placement, screen.name, {
      belowFold: top - screen.height,
      bytes: Math.round(bytes),
      reachAfter,
    });
}

export const eagerBelowFold = defineCheck<FoldEvidence>({
  id: 'eager-below-fold',
  about: {
    title: 'Load when scrolled near',
    means:
      'The image is fetched at once although it lies far below the fold, so it takes bandwidth from what the visitor sees first.',
    evidence:
      'The distance from the fold to the slot in CSS px on each screen, the bytes, and the share of visits that scroll that far.',
    fix: 'The tag with loading="lazy", and with width and height where nothing keeps room for it.',
    silent:
      'When the slot reaches into the first view of any screen, since the attribute is one for all; and nearer to the fold than the browser begins to load lazy images anyway (measured in each run; the run says how far).',
  },
  cut: 'later',
  sureness: 'bytes measured; the share of visits is the reach curve’s',
  words(draft) {
    const found = worst(draft, ({ belowFold }) => belowFold);
    if (!found) return '';
    const { belowFold, bytes, reachAfter } = found.evidence;
    return `On ${found.screen} it lies ${pixels(Math.round(belowFold))} px below the fold and its ${bytesInWords(bytes)} are fetched at once; ${percent(reachAfter)} of visits scroll there.`;
  },
  find(facts) {
    const drafts = new Drafts<FoldEvidence>();
    for (const group of sharedDownloads(facts.placements)) examine(group, facts, drafts);
    return drafts.list();
  },
  remedy: ({ placement }, facts) => ({
    changes: [{ kind: 'edit', edits: lazyEdits(placement, facts) }],
    notes: [],
  }),
});
