import { native, nativeDocument } from './native.js';
import type { ScrollRange } from './protocol.js';
import { deepQuery, parentOf } from './selector.js';

const root = () => nativeDocument.scrollingElement ?? nativeDocument.documentElement;

/** Heights that differ by less do not scroll, CSS px. */
const leastScroll = 2;
/** A part of the page that fills less of the window is not what the page scrolls by. */
const mostOfWindow = 0.5;

const scrolls = (element: Element): boolean =>
  native(element).scrollHeight - native(element).clientHeight >= leastScroll &&
  /^(auto|scroll|overlay)$/.test(getComputedStyle(element).overflowY);

const pageScrolls = () => native(root()).scrollHeight - innerHeight >= leastScroll;

/** Until it no longer scrolls: what comes later may make another one. */
let known: Element | undefined;

/**
 * What the visitor scrolls to move through the page: the document, unless it does not scroll and something in it does that fills most of
 * the window; the one that holds most.
 */
function mainScroller(): Element {
  if (known && native(known).isConnected && (known === root() ? pageScrolls() : scrolls(known))) return known;
  known = findMainScroller();
  return known;
}

function findMainScroller(): Element {
  const page = root();
  if (pageScrolls() || !nativeDocument.body) return page;
  const candidates = [...nativeDocument.body.querySelectorAll('*'), nativeDocument.body].filter(
    (element) =>
      native(element).clientHeight >= innerHeight * mostOfWindow &&
      native(element).clientWidth >= innerWidth * mostOfWindow &&
      scrolls(element),
  );
  let best: Element | undefined;
  for (const candidate of candidates)
    if (!best || native(candidate).scrollHeight > best.scrollHeight) best = candidate;
  return best ?? page;
}

const isPage = (scroller: Element) => scroller === root();

/** How far one box has moved up what is in it, CSS px; the page itself is counted by `scrollY`. */
export const movedUpBy = (box: Element): number =>
  box === root() || box === nativeDocument.body ? 0 : native(box).scrollTop;

/** How far an element has been moved up by all that scrolls around it, the page included, CSS px. */
export function scrolledDown(element: Element): number {
  let down = scrollY;
  for (let node = parentOf(element); node; node = parentOf(node)) down += movedUpBy(node);
  return down;
}

/** Height of all that can be scrolled to, CSS px. */
export function wholeHeight(): number {
  const scroller = mainScroller();
  if (isPage(scroller)) return native(root()).scrollHeight;
  return native(root()).scrollHeight - native(scroller).clientHeight + native(scroller).scrollHeight;
}

export function scrollMain(y: number): void {
  const scroller = mainScroller();
  if (isPage(scroller)) scrollTo({ top: y, behavior: 'instant' });
  else native(scroller).scrollTo({ top: y, behavior: 'instant' });
}

/**
 * What of the window a visitor sees at once, CSS px: where a page is wider than a touch screen, the window that it is laid out and lazy images
 * are asked for in is as high as if all were shown small. CSSOM View Module, section "The VisualViewport interface".
 */
export function seenAtOnce(): number {
  const seen = Math.round(visualViewport?.height ?? innerHeight);
  return innerHeight - seen >= leastScroll ? seen : innerHeight;
}

export function scrollRange(): ScrollRange {
  const scroller = mainScroller();
  const rangeOf = (position: number, window: number, seen: number) => ({
    position,
    end: Math.max(0, native(scroller).scrollHeight - window),
    step: Math.max(1, seen),
    unseen: window - seen,
    isPage: isPage(scroller),
  });
  if (isPage(scroller)) return rangeOf(scrollY, innerHeight, seenAtOnce());
  const { scrollTop, clientHeight } = native(scroller);
  return rangeOf(scrollTop, clientHeight, clientHeight);
}

/** Boxes inside the page that scroll downwards and hold images. */
function innerScrollers(): Element[] {
  const main = mainScroller();
  const found = new Set<Element>();
  for (const image of deepQuery('img, picture, video'))
    for (let node = parentOf(image); node && node !== nativeDocument.body; node = parentOf(node))
      if (node !== main && node !== root() && scrolls(node)) found.add(node);
  return [...found];
}

/** Moves each of them on by its own height. */
export function scrollInner(): boolean {
  let moved = false;
  for (const scroller of innerScrollers()) {
    const before = native(scroller).scrollTop;
    native(scroller).scrollTo({ top: before + native(scroller).clientHeight, behavior: 'instant' });
    moved ||= native(scroller).scrollTop > before;
  }
  return moved;
}
