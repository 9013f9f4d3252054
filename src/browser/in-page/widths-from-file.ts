import { native } from './native.js';
import { nodeName } from './identity.js';
import { claimByStyle } from './claimed-widths.js';
import type { WidthsFromFile } from './protocol.js';

/** An element that lists files. */
export type ImageList = HTMLImageElement | HTMLSourceElement;

/** Whether no style and no attribute gives an image a side. */
const isAuto = (image: HTMLImageElement, side: 'width' | 'height') =>
  native(image).computedStyleMap().get(side)?.toString() === 'auto';

/** Whether no style and no attribute gives an image its width. */
export const hasAutoWidth = (image: HTMLImageElement) => isAuto(image, 'width');

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

/** HTML standard, 2.4.7.4 "Sizes attributes": the box decides about the file then. */
const claimsAuto = ({ sizes }: { sizes: string }) => /^\s*auto\b/i.test(sizes);

/**
 * Images that nothing gives a width, by what `sizes` claims: they are as wide as is claimed, up to what a style allows. Where the whole
 * viewport is claimed and a style allows less, the style is what counts: such an image gets a claim that no style allows. Others get what is
 * claimed by a style, so that no file has to come for it. What cannot be held like that takes its width from the file.
 */
export function widthsFromFile(images: readonly HTMLImageElement[]): WidthsFromFile {
  const found: WidthsFromFile = { fromFile: [], byClaim: [] };
  for (const image of images) {
    // A height and the shape of the picture give a width too.
    if (!isAuto(image, 'width') || !isAuto(image, 'height')) continue;
    const lists = listsOf(image).filter(hasWidths);
    const isHeld = lists.length === 0 || (!lists.some(claimsAuto) && holdClaim(image, lists));
    found[isHeld ? 'byClaim' : 'fromFile'].push(nodeName(image));
  }
  return found;
}

/** @returns false where lists claim different things, or what no style can say */
function holdClaim(image: HTMLImageElement, lists: readonly ImageList[]): boolean {
  const allowed = native(image).computedStyleMap().get('max-width')?.toString() ?? 'none';
  const { width } = image.getBoundingClientRect();
  // Of what is no length, such as `fit-content`, no smaller one can be named.
  const isLimited = /^(\d|\w+\()/.test(allowed) && width > 0 && width < image.naturalWidth - 1;
  if (isLimited && lists.every(claimsViewport)) {
    native(image).style.setProperty('max-width', `min(${allowed}, 100vw)`, 'important');
    for (const list of lists) list.sizes = wider;
    return true;
  }
  const [claim, ...others] = new Set(lists.map(({ sizes }) => sizes.trim()));
  return claim !== undefined && others.length === 0 && claimByStyle(image, claim === '' ? '100vw' : claim);
}

/** Wider than any viewport that is measured. */
const wider = '10000px';
