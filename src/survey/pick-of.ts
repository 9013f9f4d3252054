import type { ObservedPlacement } from '../browser/index.js';
import { environmentOf, pickImage } from '../core/markup/index.js';
import type { Screen } from '../core/run/index.js';
import { parsedImage } from './offered-images.js';

/** The absolute address that an image will take on a screen, by its markup. */
export function pickOf(
  element: ObservedPlacement,
  baseUrl: string,
  screen: Pick<Screen, 'width' | 'height' | 'density' | 'touch'>,
): string | undefined {
  const image = parsedImage(element);
  const picked = image && pickImage(image, environmentOf(screen), { autoWidth: element.box?.width })?.url;
  if (picked === undefined) return undefined;
  try {
    return new URL(picked, baseUrl).href;
  } catch {
    return undefined;
  }
}
