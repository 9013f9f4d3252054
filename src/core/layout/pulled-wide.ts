import type { Shown } from '../run/types.js';

/** A picture that is drawn so much wider than its shape, by its height, is in a box that is a fault. */
const faulty = 1.5;

/**
 * Whether a picture is drawn half again as wide as its shape: mostly one side of its box was set without the other. What is asked
 * for first is another box; how many pixels this one could show says nothing.
 */
export const isPulledWide = ({
  fit,
  drawnWidth,
  drawnHeight,
  fileWidth,
  fileHeight,
}: Pick<Shown, 'fit' | 'drawnWidth' | 'drawnHeight' | 'fileWidth' | 'fileHeight'>): boolean =>
  fit === 'fill' && drawnWidth * fileHeight > drawnHeight * fileWidth * faulty;
