import { native } from './native.js';
import { isColour } from './visibility.js';

/** Whether the rendering of an element is skipped altogether: CSS Containment 2, section 4. */
export const isSkipped = (element: Element, { display }: CSSStyleDeclaration) =>
  display !== 'contents' && !element.checkVisibility();

/** Whether it is laid out as a block, in the flow. */
export function isBlockLevel(element: Element): boolean {
  const { display, float, position } = getComputedStyle(element);
  const outOfFlow = float !== 'none' || position === 'absolute' || position === 'fixed';
  return !outOfFlow && !/^(inline|contents|none)/.test(display);
}

const replaced = new Set([
  'img',
  'video',
  'canvas',
  'iframe',
  'object',
  'embed',
  'svg',
  'input',
  'textarea',
  'select',
]);
/** Whether what it shows comes from elsewhere: nothing in it is laid out on the page. */
export const isReplaced = (element: Element) => replaced.has(native(element).localName);

/** The browser does not count boxes in which nothing is drawn: empty ones without a background or border. */
export function isDrawn(element: Element, style: CSSStyleDeclaration): boolean {
  if (isReplaced(element) || native(element).childNodes.length > 0) return true;
  return (
    style.backgroundImage !== 'none' ||
    isColour(style.backgroundColor) ||
    ['top', 'right', 'bottom', 'left'].some(
      (side) => Number.parseFloat(style.getPropertyValue(`border-${side}-width`)) > 0,
    )
  );
}
