import type { Placement } from '../run/types.js';

/**
 * How wide the picture of an image is drawn on a screen at most, CSS px: in its own slot, or where a script that takes its address shows it.
 * @returns 0 where it has no box there
 */
export function widestDrawn({ shown }: Pick<Placement, 'shown'>, screen: string): number {
  const { drawnWidth = 0, widthElsewhere = 0 } = shown[screen] ?? {};
  return drawnWidth > 0 ? Math.max(drawnWidth, widthElsewhere) : 0;
}
