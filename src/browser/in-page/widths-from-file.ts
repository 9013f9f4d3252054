import { native } from './native.js';
import { nodeName } from './identity.js';
import type { WidthsFromFile } from './protocol.js';

/** An element that lists files. */
export type ImageList = HTMLImageElement | HTMLSourceElement;

/** Whether no style and no attribute gives an image its width. */
export const hasAutoWidth = (image: HTMLImageElement) =>
  native(image).computedStyleMap().get('width')?.toString() === 'auto';

/** The lists of files that an image may take one of on some screen: sources behind one that is always taken are out of reach. */
export function listsOf(image: HTMLImageElement): ImageList[] {
  const picture = native(image).parentElement;
  const lists: ImageList[] = [];
  for (const source of picture instanceof HTMLPictureElement ? native(picture).children : []) {
    if (source === image) break;
    if (!(source instanceof HTMLSourceElement) || source.srcset === '' || !isKnown(source.type)) continue;
    lists.push(source);
    if (source.media.trim() === '') return lists;
  }
  return [...lists, image];
}

/** Types of images that this browser shows. */
const isKnown = (type: string) =>
  /^\s*$|^\s*image\/(avif|webp|jpeg|png|gif|svg\+xml|apng|bmp|x-icon)\b/i.test(type);

const hasWidths = ({ srcset }: { srcset: string }) => /\s\d+w\s*(,|$)/.test(srcset);

/** What is claimed where nothing is said, and what then is no less than what a style allows. */
const claimsViewport = ({ sizes }: { sizes: string }) => /^\s*(100vw\s*)?$/i.test(sizes);

/**
 * Images whose files give their boxes the width, by what `sizes` claims: what is measured of them is what is claimed. Where the whole
 * viewport is claimed and a style allows less, the style is what counts: such an image gets a claim that no style allows.
 */
export function widthsFromFile(images: readonly HTMLImageElement[]): WidthsFromFile {
  const found: WidthsFromFile = { fromFile: [], byClaim: [] };
  for (const image of images) {
    if (!hasAutoWidth(image)) continue;
    const lists = listsOf(image).filter(hasWidths);
    if (lists.length === 0) {
      found.byClaim.push(nodeName(image));
      continue;
    }
    const allowed = native(image).computedStyleMap().get('max-width')?.toString() ?? 'none';
    const { width } = image.getBoundingClientRect();
    // Of what is no length, such as `fit-content`, no smaller one can be named.
    const isLimited = /^(\d|\w+\()/.test(allowed) && width > 0 && width < image.naturalWidth - 1;
    if (!isLimited || !lists.every(claimsViewport)) {
      found.fromFile.push(nodeName(image));
      continue;
    }
    found.byClaim.push(nodeName(image));
    native(image).style.setProperty('max-width', `min(${allowed}, 100vw)`, 'important');
    for (const list of lists) list.sizes = wider;
  }
  return found;
}

/** Wider than any viewport that is measured. */
const wider = '10000px';
