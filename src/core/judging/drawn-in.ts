import type { Placement } from '../run/types.js';
import { pixels } from '../wording/words.js';

/** Widths of a slot, CSS px. */
interface SlotWidths {
  slotWidth: number;
  /** At which it shows the whole picture, where that is another width than its own: a part is cut off, or room is left beside it. */
  drawnWidth?: number;
}

/** Less nobody would call another width, CSS px. */
const sameWidth = 1;

/** The widths of a placement's slot on a screen; 0 where it has no box. */
export function widthsIn({ slots, shown }: Placement, screen: string): SlotWidths {
  const drawnWidth = shown[screen]?.drawnWidth ?? 0;
  const slotWidth = slots[screen]?.width ?? drawnWidth;
  return Math.abs(drawnWidth - slotWidth) > sameWidth ? { slotWidth, drawnWidth } : { slotWidth };
}

/** Says how wide a slot is, and how wide its picture where that is another width: so many pixels are needed. */
export function slotInWords({ slotWidth, drawnWidth }: SlotWidths): string {
  const slot = `slot of ${pixels(slotWidth)} CSS px`;
  return drawnWidth === undefined ? slot : `${slot} (the picture is ${pixels(drawnWidth)} px wide in it)`;
}
