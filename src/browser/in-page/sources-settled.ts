import { nativeDocument } from './native.js';
import { nextFrame } from './next-frame.js';
import { hasAutoWidth, listsOf, type ImageList } from './widths-from-file.js';

/** Another source may bring another size of picture: images are waited for so long, ms, … */
const longestMs = 1000;
/** … and count as settled after so many frames in which they are whole. */
const calmFrames = 3;

/** The source that each image took when it was looked at last. */
const taken = new WeakMap<HTMLImageElement, ImageList>();

/** The one whose condition holds. */
const takenNow = (image: HTMLImageElement): ImageList | undefined =>
  listsOf(image).find((list) => list === image || matchMedia((list as HTMLSourceElement).media).matches);

/**
 * Waits until images that take another source since the window was resized show its file: where nothing else gives them a width, the file
 * does, and the one before stays until the next has come.
 */
export async function sourcesSettled(): Promise<void> {
  const changed: HTMLImageElement[] = [];
  for (const image of nativeDocument.querySelectorAll<HTMLImageElement>('picture > img')) {
    if (!hasAutoWidth(image)) continue;
    const [before, now] = [taken.get(image), takenNow(image)];
    if (now) taken.set(image, now);
    if (before !== now) changed.push(image);
  }
  if (changed.length === 0) return;
  const until = performance.now() + longestMs;
  for (let calm = 0; calm < calmFrames && performance.now() < until;) {
    await nextFrame();
    calm = changed.every(({ complete }) => complete) ? calm + 1 : 0;
  }
}
