import { intersect, type Rectangle } from './rectangle.js';

/** An image as it stands once the first view is loaded. */
export interface PaintedImage {
  node: string;
  /** CSS px of the page, which is not scrolled. */
  box: Rectangle | null;
  naturalWidth: number;
  naturalHeight: number;
}

/** Sizes that differ by less are the same: boxes are laid out in fractions of a px. */
const sameSize = 0.002;

/**
 * The image of the largest paint, whichever of several of the same size came first: the browser reports the first to be painted, which is
 * another one each time. Of equal ones it is the first of the page.
 * @param reported node of the one that the browser reported
 * @param images in the order of the page
 */
export function largestOfEqual(
  reported: string,
  images: readonly PaintedImage[],
  viewport: { width: number; height: number },
): string {
  const view = { x: 0, y: 0, ...viewport };
  const own = images.find(({ node }) => node === reported);
  const size = own ? paintedSize(own, view) : 0;
  if (size === 0) return reported;
  const equal = images.find((each) => paintedSize(each, view) >= size * (1 - sameSize));
  // What is larger and was not reported was not painted as an image: it is left to the browser.
  return equal && paintedSize(equal, view) <= size * (1 + sameSize) ? equal.node : reported;
}

/** Largest Contentful Paint, section 4.3 "Report largest contentful paint": what is in view, no larger than the file. CSS px². */
export function paintedSize(
  { box, naturalWidth, naturalHeight }: Omit<PaintedImage, 'node'>,
  view: Rectangle,
): number {
  const seen = box && intersect(box, view);
  if (!box || !seen) return 0;
  const share = (naturalWidth * naturalHeight) / (box.width * box.height);
  return seen.width * seen.height * Math.min(1, share);
}
