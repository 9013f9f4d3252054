import { native } from './native.js';
import { nodeName } from './identity.js';
import { holderOf } from './sides.js';
import { tryStyle } from './tried-style.js';
import { hasAutoWidth } from './widths-from-file.js';

/** Boxes may be so far off, CSS px. */
const same = 0.5;

/** More images than this are not tried. */
const mostTried = 100;

/** Wider than any block. */
const endless = '100000px';

/**
 * How wide images can get, CSS px, whose style allows them a share of what the width of their block does not tell. In a block that is itself only as wide
 * as what it holds a percentage does not count until the block has its width (CSS Sizing Level 3, section 5.2.2); elsewhere it is of an area of a grid, of
 * a column, or of the block that an image is placed in (CSS Grid Layout Level 1, section 9; CSS Multi-column Layout Level 1, section 2).
 */
export function widthLimits(images: readonly HTMLImageElement[]): Record<string, number> {
  const candidates = images
    .filter((image) => image.isConnected && hasAutoWidth(image) && allowsShare(image))
    .map((image) => ({ image, holder: holderOf(image) }))
    .filter(({ image, holder }) => holder && image.getBoundingClientRect().width > 0);
  const before = candidates.map(({ holder }) => holder?.getBoundingClientRect().width ?? 0);
  const undo = candidates.map(({ image }) => tryStyle(image, 'width', '0px'));
  const untold = candidates.filter(
    ({ image, holder }, index) =>
      (before[index] ?? 0) - (holder?.getBoundingClientRect().width ?? 0) > same || isOfAnArea(image, holder),
  );
  for (const back of undo) back();
  const limits: Record<string, number> = {};
  for (const { image } of untold.slice(0, mostTried)) {
    const back = tryStyle(image, 'width', endless);
    limits[nodeName(image)] = image.getBoundingClientRect().width;
    back();
  }
  return limits;
}

/** Whether percentages of an image are of a part of its block, or of another block. */
function isOfAnArea(image: HTMLImageElement, holder: Element | null): boolean {
  if (!holder || /^(absolute|fixed)$/.test(getComputedStyle(image).position)) return true;
  const { display, columnCount, columnWidth } = getComputedStyle(holder);
  return /grid/.test(display) || columnCount !== 'auto' || columnWidth !== 'auto';
}

const allowsShare = (image: HTMLImageElement) =>
  native(image).computedStyleMap().get('max-width')?.toString().includes('%') === true;
