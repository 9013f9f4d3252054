import { native } from './native.js';
import type { FramePlace } from './protocol.js';
import { uniqueSelector } from './selector.js';

/** Asked in a frame's own document. */
export function framePlace(): FramePlace | null {
  const element = ownerElement();
  if (!element) return null;
  const view = native(element).ownerDocument.defaultView;
  if (!view) return null;
  const style = view.getComputedStyle(element);
  const side = (name: string) => Number.parseFloat(style.getPropertyValue(name)) || 0;
  const rect = native(element).getBoundingClientRect();
  const hasBox = native(element).getClientRects().length > 0;
  return {
    selector: uniqueSelector(element),
    box: hasBox
      ? {
          x: rect.left + view.scrollX + side('border-left-width') + side('padding-left'),
          y: rect.top + view.scrollY + side('border-top-width') + side('padding-top'),
          width: innerWidth,
          height: innerHeight,
        }
      : null,
    seen: hasBox && rect.width >= 1 && rect.height >= 1 && rect.right + view.scrollX >= 1,
    url: location.href,
    width: innerWidth,
    height: innerHeight,
  };
}

/** The element that holds this document; null for the page itself and across origins. */
function ownerElement(): Element | null {
  try {
    return globalThis.frameElement;
  } catch {
    return null;
  }
}
