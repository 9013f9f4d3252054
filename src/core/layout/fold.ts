import type { Screen, Slot } from '../run/types.js';

/** A slot of which less is in the first view only peeks over the fold: it is not what the visitor waits for. */
export const enoughInView = 0.25;

/** The part of a slot's height that lies above the fold and inside the width of the screen, 0 to 1. */
export function shareInFirstView(slot: Slot, screen: Pick<Screen, 'width' | 'height'>): number {
  if (slot.width <= 0 || slot.height <= 0) return 0;
  const across = Math.min(slot.x + slot.width, screen.width) - Math.max(slot.x, 0);
  if (across < slot.width / 4) return 0;
  const down = Math.min(slot.y + slot.height, screen.height) - Math.max(slot.y, 0);
  return Math.max(0, Math.min(1, down / slot.height));
}

/** Distance from the fold down to the slot's upper edge, CSS px; 0 or less when it reaches into the first view. */
export function distanceBelowFold(slot: Slot, screen: Pick<Screen, 'height'>): number {
  return slot.y - screen.height;
}
