import { native } from './native.js';
import { findElement, parentOf } from './selector.js';

/** What begins so many windows below the first pixel is far below. */
const farWindows = 3;

/**
 * Whether images lie so far below the window that nothing in view moves when they come: what lies above them does not, unless their size counts
 * in the layout of something that begins in view, as it does in a table or a flexible box.
 * @param selectors of elements; what is not there is not far
 */
export const areFarBelow = (selectors: readonly string[]): boolean =>
  selectors.every((selector) => {
    const element = findElement(selector);
    return element !== undefined && isFarBelow(element);
  });

function isFarBelow(element: Element): boolean {
  const height = visualViewport?.height ?? innerHeight;
  if (topOf(element) < farWindows * height) return false;
  for (let around = parentOf(element); around; around = parentOf(around))
    if (topOf(around) < height && !isStacked(around)) return false;
  return true;
}

const topOf = (element: Element) => native(element).getBoundingClientRect().top;

/** Whether an element puts one thing below the other, as wide as what it stands in. */
function isStacked(element: Element): boolean {
  const { display, float, position } = getComputedStyle(element);
  return (
    /^(block|flow-root|list-item)$/.test(display) && float === 'none' && /^(static|relative)$/.test(position)
  );
}
