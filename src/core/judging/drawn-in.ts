import type { Placement } from '../run/types.js';
import { pixels } from '../wording/words.js';

/** Widths of a slot, CSS px. */
interface SlotWidths {
  slotWidth: number;
  /** At which it shows the whole picture, where that is another width than its own: a part is cut off, or room is left beside it. */
  drawnWidth?: number;
  /** At which a script shows the picture elsewhere, where that is wider. */
  widthElsewhere?: number;
}

/** Less nobody would call another width, CSS px. */
const sameWidth = 1;

/** The widths of a placement's slot on a screen; 0 where it has no box. */
export function widthsIn({ slots, shown }: Placement, screen: string): SlotWidths {
  const { drawnWidth = 0, widthElsewhere = 0 } = shown[screen] ?? {};
  const slotWidth = slots[screen]?.width ?? drawnWidth;
  return {
    slotWidth,
    ...(Math.abs(drawnWidth - slotWidth) > sameWidth ? { drawnWidth } : {}),
    ...(widthElsewhere > drawnWidth + sameWidth ? { widthElsewhere } : {}),
  };
}

/** Says how wide a slot is, and how wide its picture where that is another width: so many pixels are needed. */
export function slotInWords({ slotWidth, drawnWidth, widthElsewhere }: SlotWidths): string {
  const slot = `slot of ${pixels(slotWidth)} CSS px`;
  if (widthElsewhere !== undefined)
    return `${slot} (a script may show it ${pixels(widthElsewhere)} px wide elsewhere)`;
  return drawnWidth === undefined ? slot : `${slot} (the picture is ${pixels(drawnWidth)} px wide in it)`;
}
