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
 * How wide images can get, CSS px, whose style allows them a share of a block that is itself only as wide as what it holds: what is that share
 * now says nothing of it. CSS Sizing Level 3, section 5.2.2: in such a block a percentage does not count until the block has its width.
 */
export function widthLimits(images: readonly HTMLImageElement[]): Record<string, number> {
  const candidates = images
    .filter((image) => image.isConnected && hasAutoWidth(image) && allowsShare(image))
    .map((image) => ({ image, holder: holderOf(image) }))
    .filter(({ image, holder }) => holder && image.getBoundingClientRect().width > 0);
  const before = candidates.map(({ holder }) => holder?.getBoundingClientRect().width ?? 0);
  const undo = candidates.map(({ image }) => tryStyle(image, 'width', '0px'));
  const shrunk = candidates.filter(
    ({ holder }, index) => (before[index] ?? 0) - (holder?.getBoundingClientRect().width ?? 0) > same,
  );
  for (const back of undo) back();
  const limits: Record<string, number> = {};
  for (const { image } of shrunk.slice(0, mostTried)) {
    const back = tryStyle(image, 'width', endless);
    limits[nodeName(image)] = image.getBoundingClientRect().width;
    back();
  }
  return limits;
}

const allowsShare = (image: HTMLImageElement) =>
  native(image).computedStyleMap().get('max-width')?.toString().includes('%') === true;
