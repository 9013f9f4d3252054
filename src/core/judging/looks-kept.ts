import { parseSizes } from '../markup/index.js';
import { isPixelArt } from '../layout/pixel-art.js';
import { widestDrawn } from '../layout/widest-drawn.js';
import { isFree, looksAlike } from '../plan/box.js';
import type { PlannedFile } from '../plan/file-book.js';
import type { ImageState } from '../plan/image-state.js';
import type { Placement } from '../run/types.js';
import type { Facts } from './facts.js';

/**
 * Whether an image with other files gets the box that it has, is drawn in it as it is and is as sharp, on every screen, and whether
 * everything that it would take is known.
 */
export function looksKept(placement: Placement, state: ImageState, facts: Facts): boolean {
  const { plan, screens } = facts;
  if (beginsWithAuto(plan.stateOf(placement, 0)) && !beginsWithAuto(state) && isHeldByAuto(placement, facts))
    return false;
  const isArt = isPixelArt(placement, screens);
  return screens.every(({ name, density }) => {
    const before = plan.taken(placement, name, 0);
    const after = plan.takenWith(placement, state, name);
    if (!before || !after) return before !== undefined || after === undefined;
    if (Number.isNaN(after.bytes)) return false;
    if (after.file !== before.file && isArt && !hasSamePixels(after.file, before.file)) return false;
    // There the look was the fault.
    if (after.file.recipe === 'cropped') return true;
    const [slot, shown] = [placement.slots[name], placement.shown[name]];
    if (
      !slot ||
      !shown ||
      slot.width === 0 ||
      slot.height === 0 ||
      (before.file === after.file && before.density === after.density)
    )
      return true;
    if (!isSharp(after.file, before.file, widestDrawn(placement, name) * density)) return false;
    return looksAlike(
      { slot, shown },
      { ...sizeOf(before.file), density: before.density },
      { ...sizeOf(after.file), density: after.density },
    );
  });
}

/** Whether `sizes` of the `img` itself begins with `auto`, lazy or not. */
function beginsWithAuto(state: ImageState | undefined): boolean {
  const sizes = state?.sources.at(-1)?.sizes ?? null;
  return sizes !== null && /auto/i.test(sizes) && parseSizes(sizes).auto;
}

/**
 * Whether `sizes` gives an image its box: where it begins with `auto`, a side that nothing else gives is not the file's, but one of 300 × 150
 * CSS px. HTML standard, 15.4.3 "Attributes for embedded content and images": the contained size of such images.
 */
function isHeldByAuto(placement: Placement, { plan, screens }: Facts): boolean {
  return screens.some(({ name }) => {
    const [slot, shown] = [placement.slots[name], placement.shown[name]];
    const file = plan.taken(placement, name, 0)?.file;
    if (!slot || !shown || !file || file.width === 0 || slot.width === 0) return false;
    if (isFree(shown.widthFrom)) return true;
    return isFree(shown.heightFrom) && Math.abs((slot.width * file.height) / file.width - slot.height) > 1;
  });
}

const sizeOf = ({ width, height }: { width: number; height: number }) => ({ width, height });

/** Whether a file was made without loss from one of its size. */
const hasSamePixels = (after: PlannedFile, before: PlannedFile) =>
  after.width === before.width && after.quality === null && !after.palette;

/** A file that is a little narrower than what a screen can show is not seen to be. */
const nearlyEnough = 0.9;

/** Whether a file has the pixels that a screen can show, or as many as the one before. Vector pictures always have. */
function isSharp(after: PlannedFile, before: PlannedFile, needed: number): boolean {
  return after.format === 'svg' || after.width >= Math.min(before.width, needed) * nearlyEnough;
}
