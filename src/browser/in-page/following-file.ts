import { nativeDocument } from './native.js';
import { nodeName } from './identity.js';
import { tryStyle } from './tried-style.js';

/** Boxes may be so far off, CSS px. */
const same = 0.5;

/** More images than this are not tried. */
const mostTried = 400;

/**
 * The images whose boxes depend on the size of their files although styles seem to set them: in a table, say, a column is as wide as what
 * stands in it wants to be, and each image wants its natural width. Every image is given the natural width that it would have with a list of
 * widths, the one of its box, and is given back its own. CSS Images Level 4, section 5.7 "object-view-box": the part that is shown has the
 * natural size.
 */
export function followingFile(): string[] {
  const images = [...nativeDocument.images]
    .map((image) => ({ image, box: image.getBoundingClientRect() }))
    .filter(
      ({ image, box }) =>
        image.isConnected && box.width > 0 && Math.abs(box.width - image.naturalWidth) > same,
    )
    .slice(0, mostTried);
  const undo = images.map(({ image, box }) => narrow(image, box.width / image.naturalWidth));
  const following = images.filter(({ image, box }) => {
    const now = image.getBoundingClientRect();
    return Math.abs(now.width - box.width) > same || Math.abs(now.height - box.height) > same;
  });
  for (const back of undo) back();
  return following.map(({ image }) => nodeName(image));
}

/** Shows a share of an image as if it were all of it; what is returned takes that back. */
function narrow(image: HTMLImageElement, share: number): () => void {
  const cut = `${100 * (1 - share)}%`;
  return tryStyle(image, 'object-view-box', `inset(0 ${cut} ${cut} 0)`);
}
