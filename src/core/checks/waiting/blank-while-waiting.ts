import type { Placement, Screen, Shown, Slot } from '../../run/types.js';
import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { pageView } from '../../layout/view-of.js';
import type { Facts } from '../../judging/facts.js';
import { placementsOn } from '../../judging/page-placements.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { bytesInWords, count, listed, pixels } from '../../wording/words.js';

type BlankEvidence = {
  /** Of the slot, CSS px. */
  width: number;
  height: number;
  url: string;
  /** Of a slot below the first view: how many images of its size below it have something in their place. */
  neighbours: number;
};

/** The slot that is awaited: without room for it the one that it will get, once room is kept. */
function sizeOn({ shown }: Placement, { name }: Screen): Slot | null {
  const seen = shown[name];
  return (seen && hasNoRoom(seen) ? seen.beforeScroll : seen?.whileWaiting) ?? null;
}

/** An image that gets its height from its file alone takes no room until that comes; one that is turned a little keeps a sliver. */
const hasNoRoom = ({ whileWaiting, beforeScroll, heightFrom, state }: Shown) =>
  state === 'drawn' &&
  (heightFrom === 'nothing' || heightFrom === 'auto') &&
  whileWaiting !== null &&
  whileWaiting.height < Math.max(1, sliver * (beforeScroll?.height ?? 0));

/** Of the height that an image will have. */
const sliver = 0.1;

/** Smaller slots need nothing while they wait, CSS px². */
const smallestAwaited = 10_000;
/** Of one row or grid: pictures of other crops are a little higher or lower. */
const sameHeight = 0.25;
/** So many neighbours below the first view, and so large a share of them, make a habit of the page; a row in view that was mended makes none. */
const fewestNeighbours = 3;
const mostOfThem = 0.75;

/** Where a slot is blank: seen so in the first view, or below it without what its neighbours have. */
function blankOn(placement: Placement, screen: Screen, facts: Facts): BlankEvidence | undefined {
  const shown = placement.shown[screen.name];
  const slot = sizeOn(placement, screen);
  const url = placement.downloads[screen.name]?.url;
  if (!shown?.seen || !slot || url === undefined) return undefined;
  const { width, height } = slot;
  const fold = pageView(placement, screen).height;
  if (shown.waiting === 'blank') return { width, height, url, neighbours: 0 };
  const isImage = placement.kind === 'img' || placement.kind === 'picture';
  if (
    isImage &&
    hasNoRoom(shown) &&
    shown.behind === 'nothing' &&
    slot.y < fold &&
    width * height >= smallestAwaited
  )
    return { width, height, url, neighbours: 0 };
  if (shown.waiting !== null || !isImage || shown.behind !== 'nothing') return undefined;
  if (width * height < smallestAwaited || slot.y < fold) return undefined;
  const alike = placementsOn(placement.page, facts.placements).filter((other) => {
    const box = other !== placement ? sizeOn(other, screen) : null;
    if (box === null || box.y < fold || other.kind !== placement.kind) return false;
    return Math.abs(box.width - width) <= 1 && Math.abs(box.height / height - 1) <= sameHeight;
  });
  const neighbours = alike.filter((other) => other.shown[screen.name]?.behind !== 'nothing').length;
  return neighbours >= fewestNeighbours && neighbours >= alike.length * mostOfThem
    ? { width, height, url, neighbours }
    : undefined;
}

/** The files that are awaited in blank slots. */
const blankUrls = (placement: Placement, facts: Facts): string[] =>
  facts.screens.flatMap((screen) => blankOn(placement, screen, facts)?.url ?? []);

export const blankWhileWaiting = defineCheck<BlankEvidence>({
  id: 'blank-while-waiting',
  about: {
    title: 'Show something while the image is awaited',
    means: 'Until the file comes there is a hole in the page that looks as if nothing were to come.',
    evidence:
      'The size of the slot, which in a picture of the waiting page has one colour, that of the page around it.',
    fix: 'The tag with the picture’s main colour behind it; a gradient and a tiny inlined copy are offered beside, with their bytes.',
    silent:
      'Below 10,000 CSS px² in view (an image for which no room is kept counts with the room that it will get), and when a colour, a gradient, a small copy or anything else stands there; below the first view unless most images of its size there have something in their place.',
  },
  cut: null,
  sureness: 'seen in a picture of the page with all images held back',
  words(draft) {
    const found = worst(draft, ({ width, height }) => width * height);
    if (!found) return '';
    const { width, height, neighbours } = found.evidence;
    if (neighbours > 0)
      return `Nothing stands in its place until the file comes, where ${count(neighbours, 'image')} of its size on the page have a colour or a preview (on ${listed(Object.keys(draft.screens))}).`;
    return `Nothing stands in its place until the file comes: on ${found.screen} ${pixels(width)} × ${pixels(height)} CSS px of empty page (on ${listed(Object.keys(draft.screens))}).`;
  },
  find(facts) {
    const drafts = new Drafts<BlankEvidence>();
    for (const placement of facts.placements) {
      for (const screen of facts.screens) {
        const evidence = blankOn(placement, screen, facts);
        if (evidence) drafts.add(placement, screen.name, evidence);
      }
    }
    return drafts.list();
  },
  wants: (facts) =>
    [...new Set(facts.placements.flatMap((placement) => blankUrls(placement, facts)))]
      .sort()
      .map((url) => ({ kind: 'placeholder', url })),
  remedy({ placement, screens }, facts) {
    const [evidence] = Object.values(screens);
    const offer = evidence && facts.placeholders.get(evidence.url);
    if (!offer) return nothingToPaste('Give the image a background colour.');
    return {
      changes: [{ kind: 'edit', edits: [{ kind: 'add-style', declaration: `background: ${offer.colour}` }] }],
      notes: [
        `Or a gradient, ${bytesInWords(offer.gradient.length)}: background: ${offer.gradient}`,
        ...(offer.inlined === null || facts.protections.forbids(placement, 'inlined-pictures')
          ? []
          : [
              `Or a tiny copy, ${bytesInWords(offer.inlined.length)}: background: center / cover url(${offer.inlined})`,
            ]),
      ],
    };
  },
});
