import { nodeName } from './identity.js';
import { native } from './native.js';

const hasBox = (element: Element) => element.getClientRects().length > 0;

/**
 * For images without a box that stand in a hidden element, as slides do: the image that stands alike in a shown element beside it. Once
 * they are shown they will have the boxes that such images have.
 * @returns nodes of shown images by those of hidden ones
 */
export function shownAlike(images: readonly HTMLImageElement[]): Record<string, string> {
  const found: Record<string, string> = {};
  const shownIn = new Map<Element, Element[]>();
  for (const image of images) {
    const hidden = hasBox(image) ? undefined : hiddenAround(image);
    const siblings = hidden && native(hidden).parentElement;
    if (!siblings) continue;
    // Thousands may be hidden side by side.
    const shown = shownIn.get(siblings) ?? [...native(siblings).children].filter(hasBox).slice(0, mostTried);
    shownIn.set(siblings, shown);
    for (const beside of shown) {
      const alike = standsIn(beside, hidden, image);
      if (!alike) continue;
      found[nodeName(image)] = nodeName(alike);
      break;
    }
  }
  return found;
}

/** Of elements that are shown beside a hidden one. */
const mostTried = 10;

/** The outermost element around an image, or the image itself, that a style takes out of the layout. */
function hiddenAround(image: HTMLImageElement): Element | undefined {
  let hidden: Element | undefined;
  for (let element: Element | null = image; element; element = native(element).parentElement)
    if (native(element).computedStyleMap().get('display')?.toString() === 'none') hidden = element;
  return hidden;
}

/** The image that stands in one element where another stands in a second: the same elements with the same classes around it. */
function standsIn(shown: Element, hidden: Element, image: HTMLImageElement): HTMLImageElement | undefined {
  if (shown.localName !== hidden.localName) return undefined;
  const path: Element[] = [];
  for (let element: Element = image; element !== hidden;) {
    path.unshift(element);
    const parent = native(element).parentElement;
    if (!parent) return undefined;
    element = parent;
  }
  let place = shown;
  for (const step of path) {
    const index = [...(native(step).parentElement?.children ?? [])].indexOf(step);
    const next = native(place).children[index];
    if (next?.localName !== step.localName || next.className !== step.className) return undefined;
    place = next;
  }
  return place instanceof HTMLImageElement && hasBox(place) && isLaidOutAlike(place, image)
    ? place
    : undefined;
}

/** Attributes that give an image its box. */
const isLaidOutAlike = (one: Element, other: Element) =>
  ['width', 'height', 'sizes'].every((name) => one.getAttribute(name) === other.getAttribute(name));
