import { native, nativeDocument } from './native.js';
import type { Behind } from './protocol.js';
import { movedUpBy, scrolledDown } from './scrolling.js';

/** Whether any part of an element's box can come into view by scrolling the page up and down. */
export function isSeen(element: Element): boolean {
  if (!element.checkVisibility()) return false;
  const { left, top, width, height } = native(element).getBoundingClientRect();
  let down = scrolledDown(element);
  const part = {
    left: left + scrollX,
    top: top + down,
    right: left + scrollX + width,
    bottom: top + down + height,
  };
  for (
    let node = native(element).parentElement;
    node && node !== nativeDocument.documentElement;
    node = native(node).parentElement
  ) {
    const { overflowX, overflowY } = getComputedStyle(node);
    const rect = native(node).getBoundingClientRect();
    down -= movedUpBy(node);
    // Sideways nothing but the visitor's own swipe brings a slide in; downwards the page scrolls.
    if (overflowX !== 'visible' && node !== nativeDocument.body) {
      part.left = Math.max(part.left, rect.left + scrollX);
      part.right = Math.min(part.right, rect.right + scrollX);
    }
    if (/hidden|clip/.test(overflowY) && node !== nativeDocument.body) {
      part.top = Math.max(part.top, rect.top + down);
      part.bottom = Math.min(part.bottom, rect.bottom + down);
    }
  }
  return part.right - Math.max(0, part.left) >= 1 && part.bottom - Math.max(0, part.top) >= 1;
}

/** Whether an element has its place, but styles hide what is drawn there. */
export const isConcealed = (element: Element): boolean =>
  element.checkVisibility() && !element.checkVisibility({ opacityProperty: true, visibilityProperty: true });

/** Boxes that are this much larger than the image are not its frame, CSS px. */
const frameMargin = 4;

/** Whether a computed colour draws anything. */
export const isColour = (colour: string) => !/^rgba\(.*, 0\)$|^transparent$/.test(colour);
const white = 'rgb(255, 255, 255)';

/** The colour of the page around an element. */
function groundAround(element: Element): string {
  for (let node = native(element).parentElement; node; node = native(node).parentElement) {
    const { backgroundColor } = getComputedStyle(node);
    if (isColour(backgroundColor)) return backgroundColor;
  }
  return white;
}

/** What styles draw behind an image: on the element itself, or on parents that are its frame. */
export function behindOf(element: Element): Behind {
  const own = native(element).getBoundingClientRect();
  for (let node: Element | null = element; node; node = native(node).parentElement) {
    const rect = native(node).getBoundingClientRect();
    const isFrame = rect.width - own.width <= frameMargin && rect.height - own.height <= frameMargin;
    if (node !== element && !isFrame) return 'nothing';
    const { backgroundImage, backgroundColor } = getComputedStyle(node);
    if (/url\("data:/.test(backgroundImage)) return 'inlined-picture';
    if (/url\(/.test(backgroundImage)) return 'picture';
    if (/gradient\(/.test(backgroundImage)) return 'gradient';
    if (isColour(backgroundColor)) return backgroundColor === groundAround(node) ? 'nothing' : 'colour';
  }
  return 'nothing';
}
