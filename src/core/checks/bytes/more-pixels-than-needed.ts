import { pessimistic } from '../../bytes/price-list.js';
import { mostlyContainer } from '../../bytes/trifles.js';
import { defineCheck, type Draft, type Remedy } from '../../judging/check.js';
import { bestOutcome, Drafts, worst } from '../../judging/drafts.js';
import type { Facts } from '../../judging/facts.js';
import { hasWidths } from '../../plan/image-state.js';
import { nearEnough } from '../../plan/ladder-rungs.js';
import { priceOfWidth } from '../../plan/making.js';
import type { Placement, Screen } from '../../run/types.js';
import { slotInWords, widthsIn } from '../../judging/drawn-in.js';
import { bytesInWords, group } from '../../wording/words.js';

/** Widths in device px but for the slot's. */
type PixelEvidence = {
  url: string;
  slotWidth: number;
  /** CSS px at which the slot shows the whole picture, where that is another width than its own. */
  drawnWidth?: number;
  /** CSS px at which a script shows the picture elsewhere, where that is wider. */
  widthElsewhere?: number;
  fileWidth: number;
  neededWidth: number;
  proposedWidth: number;
  /** Position of the element that offers the file. */
  source: number;
};

function examine(placement: Placement, screen: Screen, facts: Facts, drafts: Drafts<PixelEvidence>): void {
  const { plan } = facts;
  const taken = plan.taken(placement, screen.name);
  if (!taken || taken.file.animated || taken.file.width === 0 || taken.bytes < mostlyContainer) return;
  const source = plan.stateOf(placement)?.sources[taken.source];
  // Where width descriptors are, the checks of the ladder and of sizes say more exactly what is wrong.
  if (!source || source.origin === null || hasWidths(source)) return;
  const proposal = plan.proposals(placement).get(source.origin);
  const proposed = proposal?.screens[screen.name];
  if (!proposal || !proposed || proposed.width * nearEnough >= taken.file.width) return;
  const price = priceOfWidth(proposal, proposed.width, facts.prices);
  if (!price || pessimistic(price) >= taken.bytes) return;
  drafts.add(placement, screen.name, {
    url: taken.file.url,
    ...widthsIn(placement, screen.name),
    fileWidth: taken.file.width,
    neededWidth: proposed.needed,
    proposedWidth: proposed.width,
    source: source.origin,
  });
}

function remedy({ placement, screens }: Draft<PixelEvidence>): Remedy {
  const sources = [...new Set(Object.values(screens).map(({ source }) => source))];
  return {
    changes: sources.map((source) => ({ kind: 'ladder', source, fill: false })),
    notes: notesOf(placement),
  };
}

function notesOf({ kind, attribute }: Placement): string[] {
  if (attribute !== undefined)
    return [
      'A script takes the address from this attribute on every screen: see that it does nothing else with it.',
    ];
  return kind === 'css-image' ? ['Between two screens of the audit the wider one’s file is shown.'] : [];
}

export const morePixelsThanNeeded = defineCheck<PixelEvidence>({
  id: 'more-pixels-than-needed',
  about: {
    title: 'Offer smaller widths',
    means:
      'The file has more pixels than the screen can show in the slot; the visitor waits for bytes that nobody sees.',
    evidence:
      'The slot in CSS px (and the width at which it shows the picture, where that is another), the width of the delivered file and the needed width in device px, the bytes of the file and of a real encode at the width that the fix gives that screen.',
    fix: 'The tag with a list of widths (srcset) and the width at which the picture is drawn (sizes), for each source its own; of a style its rule, with image-set() by density and media queries by width; and the files to make.',
    silent:
      'Vector and animated pictures; images with width descriptors, of which the checks of sizes and of the ladder speak; templates whose smaller versions save under the limit for trifles on every page and screen; files that another placement of the page needs at full width; and where the box would change.',
  },
  cut: 'fewer-pixels',
  asksForPixels: true,
  sureness: 'measured: the picture was encoded at these widths, as the file is now',
  words(draft, _, outcomes) {
    const best = bestOutcome(draft, outcomes);
    const found = best ?? worst(draft, ({ fileWidth }) => fileWidth);
    if (!found) return '';
    const { fileWidth, neededWidth } = found.evidence;
    const saving =
      best && best.bytesAfter < best.bytes
        ? `: ${bytesInWords(best.bytes)} now, ${bytesInWords(best.bytesAfter)} at ${group(best.widthAfter)} px.`
        : '.';
    return (
      `The file is ${group(fileWidth)} px wide; on ${found.screen} its ${slotInWords(found.evidence)} needs ` +
      `${group(neededWidth)} px${saving}`
    );
  },
  find(facts) {
    const drafts = new Drafts<PixelEvidence>();
    for (const placement of facts.placements)
      for (const screen of facts.screens) examine(placement, screen, facts, drafts);
    return drafts.list();
  },
  remedy,
});
