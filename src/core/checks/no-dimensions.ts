import type { Placement } from '../run/types.js';
import { readImageMarkup } from '../markup/index.js';
import { defineCheck, type Draft, type Evidence, type Remedy } from './check.js';
import { shiftEvidence, shiftInWords } from './arrival-shift.js';
import { dimensionEdits } from './dimension-edits.js';
import { Drafts, worst } from './drafts.js';
import type { Facts } from './facts.js';
import { pixels } from './words.js';

interface RoomEvidence extends Evidence {
  reservedHeight: number;
  finalHeight: number;
  /** Layout-shift value that the image causes when it comes, in the first view. */
  shift: number;
  moved: string | null;
}

/** Less than this moves nothing that a reader would notice, CSS px. */
const noticeable = 2;

/** HTML standard, 4.8.16 "Dimension attributes": valid non-negative integers. */
const isDimension = (value: string | null | undefined) => /^\s*\d+/.test(value ?? '');

function hasDimensions(placement: Placement): boolean {
  const markup = readImageMarkup(placement.markup);
  return markup === undefined || (isDimension(markup.img.width) && isDimension(markup.img.height));
}

function remedy({ placement }: Draft<RoomEvidence>, facts: Facts): Remedy {
  const edits = dimensionEdits(placement, facts);
  const note =
    'Where the style sheet sets a width, it also needs “height: auto”, or the picture is squashed.';
  return { edits, files: [], notes: edits.length > 0 ? [note] : [] };
}

export const noDimensions = defineCheck<RoomEvidence>({
  id: 'no-dimensions',
  about: {
    title: 'Write width and height',
    means: 'Nothing says how tall the picture will be, so what stands below it jumps when it arrives.',
    evidence:
      'The height reserved while the image was held back, and the height after it came, in CSS px on each screen.',
    fix: 'The tag with the file’s width and height; the browser takes their ratio.',
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
      if (placement.kind !== 'img' && placement.kind !== 'picture') continue;
      if (hasDimensions(placement)) continue;
      for (const { name } of facts.screens) {
        const shown = placement.shown[name];
        const slot = placement.slots[name];
        if (shown?.state !== 'drawn' || !slot || slot.height === 0) continue;
        const reservedHeight = shown.whileWaiting?.height ?? 0;
        if (Math.abs(slot.height - reservedHeight) < noticeable) continue;
        drafts.add(placement, name, {
          saves: 0,
          reservedHeight,
          finalHeight: slot.height,
          ...shiftEvidence(placement, name, facts),
        });
      }
    }
    return drafts.list();
  },
  remedy,
});
