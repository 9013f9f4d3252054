import { distanceBelowFold, lazyLoadDistance } from '../layout/fold.js';
import { reachAt } from '../layout/reach.js';
import type { Placement } from '../run/types.js';
import { defineCheck, type Evidence } from './check.js';
import { Drafts, worst } from './drafts.js';
import type { Facts } from './facts.js';
import { sharedDownloads, type SharedDownload } from './shared-downloads.js';
import { bytesInWords, percent, pixels } from './words.js';

interface FoldEvidence extends Evidence {
  /** CSS px from the fold to the slot. */
  belowFold: number;
  bytes: number;
  reachAfter: number;
}

/** Whether the placement could be lazy: on no screen does it reach into the first view. */
function neverInFirstView(placement: Placement, facts: Facts): boolean {
  return facts.screens.every((screen) => {
    const slot = placement.shown[screen.name]?.beforeScroll;
    return !slot || slot.width === 0 || distanceBelowFold(slot, screen) > 0;
  });
}

function examine(group: SharedDownload, facts: Facts, drafts: Drafts<FoldEvidence>): void {
  const screen = facts.screens.find(({ name }) => name === group.screen);
  if (!screen) return;
  const claimants: { placement: Placement; top: number }[] = [];
  for (const placement of group.placements) {
    const shown = placement.shown[screen.name];
    const slot = shown?.beforeScroll;
    // One placement that needs the file early keeps it early for all.
    if (!slot || distanceBelowFold(slot, screen) <= lazyLoadDistance) return;
    if (shown.lazy) continue;
    const early = placement.downloads[screen.name]?.began === 'first-view';
    const tag = placement.kind === 'img' || placement.kind === 'picture';
    if (!early || !tag || !neverInFirstView(placement, facts)) return;
    claimants.push({ placement, top: slot.y });
  }
  const [first] = claimants;
  if (!first) return;
  const nearest = Math.min(...claimants.map(({ top }) => top));
  const reachAfter = reachAt((nearest - lazyLoadDistance) / screen.height, facts.reach);
  for (const { placement, top } of claimants) {
    const claims = placement === first.placement;
    drafts.add(placement, screen.name, {
      saves: claims ? Math.round(group.bytes * (1 - reachAfter)) : 0,
      reachAfter,
      ...(claims ? {} : { sharesWith: first.placement.id }),
      belowFold: top - screen.height,
      bytes: group.bytes,
    });
  }
}

export const eagerBelowFold = defineCheck<FoldEvidence>({
  id: 'eager-below-fold',
  about: {
    title: 'Load when scrolled near',
    means:
      'The image is fetched at once although it lies far below the fold, so it takes bandwidth from what the visitor sees first.',
    evidence:
      'The distance from the fold to the slot in CSS px on each screen, the bytes, and the share of visits that scroll that far.',
    fix: 'The tag with loading="lazy".',
    silent:
      'When the slot reaches into the first view of any screen, since the attribute is one for all; and nearer to the fold than browsers begin to load lazy images anyway (1,250 px).',
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
  remedy: () => ({ edits: [{ kind: 'set', name: 'loading', value: 'lazy' }], files: [], notes: [] }),
});
