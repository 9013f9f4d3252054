import { toDecimals } from '../core/wording/rounding.js';
import { sweepHeights, type SweepRecord } from '../browser/index.js';
import { writeCoverSizes } from '../core/layout/cover-sizes.js';
import { allowedError, boxError } from '../core/layout/fit-size.js';
import { cutIntoPieces, slotAt, type SlotSample } from '../core/layout/slot-pieces.js';
import { writeSizes } from '../core/layout/write-sizes.js';
import type { Placement, Screen, SlotSweep } from '../core/run/index.js';

const nothing = { write: null, holds: 0, worst: 0, constant: null };

const fromFile =
  'the image takes its width from the file that is picked; give it width and height, or a width in the style sheet';

/**
 * What a sweep of a page says of one of its placements, by the node that it was in that load.
 * @param screens on which the placement was visited: a slide has the slots of another only where it had that one's box when it was in view
 */
export function toSlotSweep(
  { id, slots }: Pick<Placement, 'id' | 'slots'>,
  node: string,
  record: SweepRecord,
  screens: readonly Screen[] = [],
): SlotSweep | undefined {
  const samples = record.slots.get(node);
  if (!samples || samples.length === 0) return undefined;
  const measured = record.alike.get(node) ?? node;
  if (measured !== node && !hasSlots(slots, samples, screens)) return undefined;
  if (record.widthFromFile.has(node)) return { placement: id, pieces: [], ...nothing, reason: fromFile };
  const pieces = cutIntoPieces(samples).map(({ from, to, samples: stretch }) => ({
    from,
    slotFrom: toDecimals(stretch[0]?.slot ?? 0, 2),
    to,
    slotTo: toDecimals(stretch.at(-1)?.slot ?? 0, 2),
  }));
  if (record.dependsOnHeight.has(measured)) {
    return {
      placement: id,
      pieces,
      ...nothing,
      reason: 'the slot depends on the height of the viewport too',
    };
  }
  const written = writeDrawn(record, node, samples);
  if ('reason' in written)
    return { placement: id, pieces: pieces.slice(0, mostPieces), ...nothing, reason: written.reason };
  const { text, holds, worst, constant } = written;
  return {
    placement: id,
    pieces,
    write: text,
    reason: null,
    holds: toDecimals(holds, 2),
    worst: toDecimals(worst, 2),
    constant: constant ?? null,
  };
}

/** Whether a placement was seen, and wherever it was, as wide as these samples say. */
function hasSlots(
  slots: Placement['slots'],
  samples: readonly SlotSample[],
  screens: readonly Screen[],
): boolean {
  const seen = screens.flatMap(({ name, width }) => {
    const slot = slots[name];
    return slot ? [{ own: slot.width, theirs: slotAt(samples, width) }] : [];
  });
  return seen.length > 0 && seen.every(({ own, theirs }) => Math.abs(own - theirs) <= allowedError(own));
}

/** A slot that follows no straight lines would fill the run with its every width. */
const mostPieces = 40;

/** The `sizes` for the width at which the picture is drawn. */
function writeDrawn(
  { drawn, heights, widthByClaim }: SweepRecord,
  node: string,
  slots: readonly SlotSample[],
): ReturnType<typeof writeSizes> {
  const fitted = drawn.get(node);
  if (!fitted) return writeSizes(slots, widthByClaim.has(node) ? { allowed: boxError } : {});
  const probes = heights.get(node) ?? [];
  const byHeight = probes.some(({ atUsual, atOther }) => Math.abs(atUsual - atOther) > 1);
  return byHeight ? writeCoverSizes(slots, fitted, probes, sweepHeights) : writeSizes(fitted);
}
