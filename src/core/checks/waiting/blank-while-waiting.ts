import type { Placement, Screen, Slot } from '../../run/types.js';
import { defineCheck, nothingToPaste } from '../../judging/check.js';
import { withStyle } from '../../judging/dimensions.js';
import type { Facts } from '../../judging/facts.js';
import { Drafts, worst } from '../../judging/drafts.js';
import { bytesInWords, listed, pixels } from '../../wording/words.js';

type BlankEvidence = {
  /** Of the slot, CSS px. */
  width: number;
  height: number;
  url: string;
};

const sizeOn = (placement: Placement, { name }: Screen): Slot | null =>
  placement.shown[name]?.whileWaiting ?? null;

/** The files that are awaited in blank slots. */
const blankUrls = (placement: Placement, { screens }: Pick<Facts, 'screens'>): string[] =>
  screens.flatMap(({ name }) =>
    placement.shown[name]?.waiting === 'blank' ? (placement.downloads[name]?.url ?? []) : [],
  );

export const blankWhileWaiting = defineCheck<BlankEvidence>({
  id: 'blank-while-waiting',
  about: {
    title: 'Show something while the image is awaited',
    means: 'Until the file comes there is a hole in the page that looks as if nothing were to come.',
    evidence:
      'The size of the slot, which in a picture of the waiting page has one colour, that of the page around it.',
    fix: 'The tag with the picture’s main colour behind it; a gradient and a tiny inlined copy are offered beside, with their bytes.',
    silent:
      'Below 10,000 CSS px² in the first view, and when a colour, a gradient, a small copy or anything else stands there.',
  },
  cut: null,
  sureness: 'seen in a picture of the page with all images held back',
  words(draft) {
    const found = worst(draft, ({ width, height }) => width * height);
    if (!found) return '';
    const { width, height } = found.evidence;
    return `Nothing stands in its place until the file comes: on ${found.screen} ${pixels(width)} × ${pixels(height)} CSS px of empty page (on ${listed(Object.keys(draft.screens))}).`;
  },
  find(facts) {
    const drafts = new Drafts<BlankEvidence>();
    for (const placement of facts.placements) {
      for (const screen of facts.screens) {
        const slot = sizeOn(placement, screen);
        const download = placement.downloads[screen.name];
        if (placement.shown[screen.name]?.waiting !== 'blank' || !slot || !download) continue;
        drafts.add(placement, screen.name, {
          width: slot.width,
          height: slot.height,
          url: download.url,
        });
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
    const value = withStyle(placement.markup, `background: ${offer.colour}`);
    return {
      changes: [{ kind: 'edit', edits: [{ kind: 'set', name: 'style', value }] }],
      notes: [
        `Or a gradient, ${bytesInWords(offer.gradient.length)}: background: ${offer.gradient}`,
        ...(offer.inlined === null
          ? []
          : [
              `Or a tiny copy, ${bytesInWords(offer.inlined.length)}: background: center / cover url(${offer.inlined})`,
            ]),
      ],
    };
  },
});
