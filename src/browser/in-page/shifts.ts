import { uniqueSelector } from './selector.js';
import type { Box, PendingImage, SeenShifts } from './protocol.js';

/** Layout Instability, section 5: the entry that the browser reports. */
interface LayoutShiftEntry extends PerformanceEntry {
  value: number;
}

interface NodePlace {
  /** The whole box, in viewport coordinates. */
  box: Box;
  /** What its ancestors leave visible of it. */
  seen: Box | null;
}

let reported = 0;
const note = (entries: readonly PerformanceEntry[]) => {
  for (const entry of entries) reported += (entry as LayoutShiftEntry).value;
};
const observer = new PerformanceObserver((list) => note(list.getEntries()));
observer.observe({ type: 'layout-shift', buffered: true });

let places = new Map<Node, NodePlace>();

/** Remembers where everything is, and forgets the shifts reported so far. */
export function markPlaces(): number {
  places = takePlaces();
  note(observer.takeRecords());
  const before = reported;
  reported = 0;
  return before;
}

/** What moved since `markPlaces`, and the sum of the shifts that the browser has reported since. */
export function shiftsSinceMark(): SeenShifts {
  const moved: SeenShifts['moved'] = [];
  for (const [node, after] of takePlaces()) {
    const before = places.get(node);
    if (!before || (!before.seen && !after.seen)) continue;
    if (Math.max(Math.abs(after.box.x - before.box.x), Math.abs(after.box.y - before.box.y)) < 1) continue;
    moved.push({
      name: nameOf(node),
      before: before.box,
      after: after.box,
      seenBefore: before.seen,
      seenAfter: after.seen,
    });
  }
  note(observer.takeRecords());
  const sum = reported;
  reported = 0;
  return {
    moved,
    reported: sum,
    viewport: { width: document.documentElement.clientWidth, height: document.documentElement.clientHeight },
  };
}

const mostNameLength = 60;

function nameOf(node: Node): string {
  if (node instanceof Element) return uniqueSelector(node);
  const text = (node.textContent ?? '').trim().replace(/\s+/g, ' ').slice(0, mostNameLength);
  return `“${text}”`;
}

function takePlaces(): Map<Node, NodePlace> {
  const found = new Map<Node, NodePlace>();
  const view = {
    x: 0,
    y: 0,
    width: document.documentElement.clientWidth,
    height: document.documentElement.clientHeight,
  };
  if (document.body) walk(document.body, view, found);
  return found;
}

function walk(element: Element, clip: Box | null, found: Map<Node, NodePlace>): void {
  const style = getComputedStyle(element);
  if (style.display === 'none') return;
  const rect = element.getBoundingClientRect();
  const box = { x: rect.x, y: rect.y, width: rect.width, height: rect.height };
  const visible = style.visibility === 'visible';
  if (
    visible &&
    style.display !== 'contents' &&
    style.display !== 'inline' &&
    isDrawn(element, style) &&
    box.width > 0 &&
    box.height > 0
  )
    found.set(element, { box, seen: cut(box, clip) });
  // Replaced elements have no children that are laid out on the page.
  if (isReplaced(element)) {
    if (visible && style.display === 'inline' && box.width > 0 && box.height > 0)
      found.set(element, { box, seen: cut(box, clip) });
    return;
  }
  const inner = style.overflowX === 'visible' && style.overflowY === 'visible' ? clip : cut(box, clip);
  for (const child of element.childNodes) {
    if (child instanceof Element) walk(child, inner, found);
    else if (child instanceof Text && visible && child.data.trim() !== '') addText(child, inner, found);
  }
}

function addText(text: Text, clip: Box | null, found: Map<Node, NodePlace>): void {
  const range = document.createRange();
  range.selectNodeContents(text);
  const { x, y, width, height } = range.getBoundingClientRect();
  if (width > 0 && height > 0)
    found.set(text, { box: { x, y, width, height }, seen: cut({ x, y, width, height }, clip) });
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
const isReplaced = (element: Element) => replaced.has(element.localName);

/** The browser does not count boxes in which nothing is drawn: empty ones without a background or border. */
function isDrawn(element: Element, style: CSSStyleDeclaration): boolean {
  if (isReplaced(element) || element.childNodes.length > 0) return true;
  return (
    style.backgroundImage !== 'none' ||
    !/^rgba\(.*, 0\)$|^transparent$/.test(style.backgroundColor) ||
    ['Top', 'Right', 'Bottom', 'Left'].some(
      (side) => Number.parseFloat(style.getPropertyValue(`border-${side.toLowerCase()}-width`)) > 0,
    )
  );
}

function cut(box: Box, clip: Box | null): Box | null {
  if (!clip) return null;
  const x = Math.max(box.x, clip.x);
  const y = Math.max(box.y, clip.y);
  const width = Math.min(box.x + box.width, clip.x + clip.width) - x;
  const height = Math.min(box.y + box.height, clip.y + clip.height) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : null;
}

/** Images that wait for their file, and how much of their box is known without it. */
export function pendingImages(): PendingImage[] {
  return [...document.images]
    .filter((image) => !image.complete && image.getClientRects().length > 0)
    .map((image) => {
      const map = image.computedStyleMap();
      const auto = (name: string) => map.get(name)?.toString() === 'auto';
      const ratio = /(\d*\.?\d+) \/ (\d*\.?\d+)/.exec(getComputedStyle(image).aspectRatio);
      return {
        selector: uniqueSelector(image),
        fixed: !auto('width') && !auto('height'),
        ratio: ratio ? Number(ratio[1]) / Number(ratio[2]) : null,
        ownRatio: getComputedStyle(image).aspectRatio.startsWith('auto') && ratio !== null,
      };
    });
}

/** Waits until images have arrived or failed. */
export async function imagesArrive(selectors: readonly string[]): Promise<void> {
  const images = selectors
    .map((selector) => document.querySelector(selector))
    .filter((element): element is HTMLImageElement => element instanceof HTMLImageElement);
  await Promise.allSettled(images.map(arrives));
}

async function arrives(image: HTMLImageElement): Promise<void> {
  if (!image.complete)
    await new Promise<void>((resolve) => {
      image.addEventListener('load', () => resolve(), { once: true });
      image.addEventListener('error', () => resolve(), { once: true });
    });
  await image.decode();
}
