import { native, nativeDocument } from './native.js';
import type { ElementBox } from '../../core/mending/box-changes.js';

/** What shows nothing itself, so that an edit may bring or take it. */
const boxless: ReadonlySet<string> = new Set([
  'picture',
  'source',
  'script',
  'noscript',
  'style',
  'link',
  'template',
]);

/**
 * Where every element of the page lies, in the order of the document. What stands in a `picture` counts as if it stood around it, so that
 * a page and its mended copy have the same list. Elements without a box, or in what is closed, are left out. What moves without end is
 * held where it begins: two pages would be measured at different times of it. Web Animations, section 4.4 "Animations".
 */
export function elementBoxes(): ElementBox[] {
  for (const animation of nativeDocument.getAnimations()) {
    if (animation.playState !== 'running' || !(animation.timeline instanceof DocumentTimeline)) continue;
    animation.pause();
    animation.currentTime = 0;
  }
  const found: ElementBox[] = [];
  for (const element of nativeDocument.body.querySelectorAll('*')) {
    const own = native(element);
    if (boxless.has(own.localName) || own.getClientRects().length === 0 || !own.checkVisibility()) continue;
    const { x, y, width, height } = own.getBoundingClientRect();
    const [first] = own.classList;
    const name = `${own.localName}${own.id ? `#${own.id}` : ''}${first ? `.${first}` : ''}`;
    found.push([name, tidy(x + scrollX), tidy(y + scrollY), tidy(width), tidy(height)]);
  }
  return found;
}

const tidy = (px: number) => Math.round(px * 100) / 100;
