import { drawnSize, type Size } from '../layout/drawn-size.js';
import { naturalSize } from '../markup/index.js';
import type { Shown, Slot } from '../run/types.js';

/** What decides about the box of an image that was measured. */
export interface MeasuredBox {
  slot: Slot;
  shown: Pick<Shown, 'widthFrom' | 'heightFrom' | 'limitWidth' | 'followsFile' | 'fit'>;
}

/** A file as it is picked: its pixels, and the density it is laid out with. */
export interface PickedFile extends Size {
  density: number;
}

/** Whether the file gives a box this side, as far as a style lets it. */
export const isFree = (from: Shown['widthFrom'] | undefined) => from === 'auto' || from === 'nothing';

/**
 * The box that an image gets with another file, CSS px, from what gave it the box that was measured. HTML standard, 15.4.3 "Attributes
 * for embedded content and images"; CSS Images Level 3, section 5.3 "Sizing objects".
 */
export function boxWith({ slot, shown }: MeasuredBox, before: PickedFile, after: PickedFile): Size {
  const [old, now] = [naturalSize(before, before.density), naturalSize(after, after.density)];
  const byRatio = (width: number) => (width * now.height) / Math.max(1e-9, now.width);
  const freeWidth = isFree(shown.widthFrom);
  const freeHeight = isFree(shown.heightFrom);
  if (!freeWidth && !freeHeight) return { width: slot.width, height: slot.height };
  if (!freeWidth) return { width: slot.width, height: heightAt(slot, old, byRatio(slot.width)) };
  if (!freeHeight) {
    const byHeight = ({ width, height }: Size) => (slot.height * width) / Math.max(1e-9, height);
    return {
      width: widthOf(slot.width, shown.limitWidth, byHeight(old), byHeight(now)),
      height: slot.height,
    };
  }
  const width = widthOf(slot.width, shown.limitWidth, old.width, now.width);
  return { width, height: heightAt(slot, old, byRatio(width)) };
}

/** Layout counts in 64ths of a px. */
const rounding = 0.05;

/**
 * A box that is as wide as its file makes it, or as wide as a style lets it be, follows the file up to there; one that something else holds
 * stays, unless the file makes it narrower still.
 */
function widthOf(slot: number, limit: number | null, old: number, now: number): number {
  const most = limit ?? Number.POSITIVE_INFINITY;
  if (Math.abs(slot - Math.min(old, most)) <= rounding) return Math.min(now, most);
  return slot < old ? Math.min(slot, now) : slot;
}

/** A height that did not follow the file's ratio is given by something else, a grid for instance, and stays. */
function heightAt(slot: Slot, old: Size, byRatio: number): number {
  const followed = Math.abs((slot.width * old.height) / Math.max(1e-9, old.width) - slot.height) <= 1;
  return followed ? byRatio : slot.height;
}

/** Boxes may differ by so much before anybody sees it, CSS px: what fitted `sizes` may be off by. */
const unseen = 1;

/** Whether an image looks as before: its box, and the size at which the picture is drawn in it. */
export function looksAlike(box: MeasuredBox, before: PickedFile, after: PickedFile): boolean {
  const { slot, shown } = box;
  if (before.width === 0 || after.width === 0) return true;
  const now = boxWith(box, before, after);
  const near = (a: number, b: number) => Math.abs(a - b) <= Math.max(unseen, b * 0.005);
  if (!near(now.width, slot.width) || !near(now.height, slot.height)) return false;
  const [old, natural] = [naturalSize(before, before.density), naturalSize(after, after.density)];
  // What stands around it decides, and of that nothing is known here.
  if (shown.followsFile && !near(natural.width, old.width)) return false;
  const drawn = drawnSize(now, natural, shown.fit);
  const drawnBefore = drawnSize(slot, old, shown.fit);
  return near(drawn.width, drawnBefore.width) && near(drawn.height, drawnBefore.height);
}
