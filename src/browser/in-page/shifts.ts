import { native, nativeDocument } from './native.js';
import { intersect } from '../../core/layout/rectangle.js';
import { uniqueSelector } from './selector.js';
import type { Box, SeenShifts } from './protocol.js';
import { isColour } from './visibility.js';

/** Layout Instability, section 5: the entry that the browser reports. */
interface LayoutShiftEntry extends PerformanceEntry {
  value: number;
}

interface NodePlace {
  /** Where it begins and how large it is, in viewport coordinates. */
  box: Box;
  /** The same with what reaches out of it. */
  whole: Box;
  /** What its ancestors leave visible. */
  clip: Box | null;
  /** Corner of the nearest ancestor that clips; null for none. */
  frame: Corner | null;
  /** Of text, the corner of its block. */
  block?: Corner;
}

interface Corner {
  x: number;
  y: number;
}

let reported = 0;
const note = (entries: readonly PerformanceEntry[]) => {
  for (const entry of entries) reported += (entry as LayoutShiftEntry).value;
};
const observer = new PerformanceObserver((list) => note(list.getEntries()));
observer.observe({ type: 'layout-shift', buffered: true });

let places = new Map<Node, NodePlace>();

/** The layout-shift values that were reported since this was asked last. */
function takeReported(): number {
  note(observer.takeRecords());
  const sum = reported;
  reported = 0;
  return sum;
}

/** Remembers where everything is, and forgets the shifts reported so far. */
export function markPlaces(): void {
  places = takePlaces();
  takeReported();
}

/**
 * What moved since the last look, by this function or by `markPlaces`, and the sum of the shifts that the browser has reported since. In
 * a frame that clips, the browser takes what moved along with the frame as not moved; the frame itself counts.
 */
export function shiftsSinceMark(): SeenShifts {
  const moved: SeenShifts['moved'] = [];
  const earlier = places;
  places = takePlaces();
  for (const [node, after] of places) {
    const before = earlier.get(node);
    if (!before) continue;
    const carried = {
      x: (after.frame?.x ?? 0) - (before.frame?.x ?? 0),
      y: (after.frame?.y ?? 0) - (before.frame?.y ?? 0),
    };
    const box = shifted(before.box, carried);
    if (Math.max(Math.abs(after.box.x - box.x), Math.abs(after.box.y - box.y)) < 1) continue;
    if (after.block && before.block && movesAlong(before, after, before.block, after.block)) continue;
    // What was there before counts as far as it would be in view now: on touch screens the view grows with the page.
    // Of text the browser remembers where it began, but not how many lines it had.
    const { height } = node instanceof Text ? after.whole : before.whole;
    const seenBefore = cut({ ...shifted(before.whole, carried), height }, after.clip);
    const seenAfter = cut(after.whole, after.clip);
    if (seenBefore || seenAfter)
      moved.push({ name: nameOf(node), before: box, after: after.box, seenBefore, seenAfter });
  }
  return { moved, reported: takeReported(), viewport: viewport() };
}

/** Text that goes where its block goes is not counted beside it, CSS px. */
const ownMovement = 3;

function movesAlong(before: NodePlace, after: NodePlace, from: Corner, to: Corner): boolean {
  const own = {
    x: after.box.x - to.x - (before.box.x - from.x),
    y: after.box.y - to.y - (before.box.y - from.y),
  };
  return Math.max(Math.abs(own.x), Math.abs(own.y)) < ownMovement;
}

const shifted = (box: Box, by: Corner): Box => ({ ...box, x: box.x + by.x, y: box.y + by.y });

const mostNameLength = 60;

function nameOf(node: Node): string {
  if (node instanceof Element) return uniqueSelector(node);
  const text = (node.textContent ?? '').trim().replace(/\s+/g, ' ').slice(0, mostNameLength);
  return `“${text}”`;
}

/** On touch screens a page that is too wide is shown smaller, so that more of it is in view: shifts count in that larger view. */
const viewport = () => ({
  width: visualViewport?.width ?? innerWidth,
  height: visualViewport?.height ?? innerHeight,
});

function takePlaces(): Map<Node, NodePlace> {
  const found = new Map<Node, NodePlace>();
  const { width, height } = viewport();
  const view = { x: 0, y: 0, width, height };
  if (nativeDocument.body)
    walk(
      nativeDocument.body,
      { clip: view, frame: null, block: blockOf(nativeDocument.body), depth: 0 },
      found,
    );
  return found;
}

/** Where an element stands in the walk. */
interface Surroundings {
  /** What ancestors leave visible. */
  clip: Box | null;
  /** Corner of the nearest ancestor that clips. */
  frame: Corner | null;
  /** Nearest ancestor that is laid out as a block. */
  block: Block;
  /** Elements around it. */
  depth: number;
}

/** Scripts can nest elements without end; what lies deeper moves with what is around it. */
const deepest = 1000;

interface Block {
  element: Element;
  /** Whether blocks stand beside its text. */
  mixed: boolean;
}

const blockOf = (element: Element): Block => ({
  element,
  mixed: [...native(element).children].some(isBlockLevel),
});

/**
 * Takes the places of an element and of what is in it.
 * @returns the box of the element together with what reaches out of it: as one such box it is counted
 */
function walk(
  element: Element,
  { clip, frame, block, depth }: Surroundings,
  found: Map<Node, NodePlace>,
): Box | undefined {
  const style = getComputedStyle(element);
  // What a closed disclosure holds has boxes of an earlier layout, and none of them is drawn.
  if (style.display === 'none' || isSkipped(element, style)) return undefined;
  const rect = native(element).getBoundingClientRect();
  const box = { x: rect.x, y: rect.y, width: rect.width, height: rect.height };
  const visible = style.visibility === 'visible';
  const clips = style.overflowX !== 'visible' || style.overflowY !== 'visible';
  const inline = style.display === 'inline' || style.display === 'contents';
  let whole = box;
  // Replaced elements have no children that are laid out on the page.
  if (!isReplaced(element) && depth < deepest) {
    const inner = {
      clip: clips ? cut(box, clip) : clip,
      frame: clips ? { x: box.x, y: box.y } : frame,
      block: inline ? block : blockOf(element),
      depth: depth + 1,
    };
    for (const child of [...(native(element).shadowRoot?.childNodes ?? []), ...native(element).childNodes]) {
      if (child instanceof Element) {
        const reach = walk(child, inner, found);
        if (reach && !clips) whole = joined(whole, reach);
      } else if (child instanceof Text && visible && visibleCharacter.test(child.data))
        addText(child, inner, found);
    }
  }
  const counts = visible && (!inline || isReplaced(element)) && isDrawn(element, style);
  if (counts && whole.width > 0 && whole.height > 0) found.set(element, { box, whole, clip, frame });
  return inline && !isReplaced(element) && box.width === 0 ? undefined : whole;
}

/** White space collapses; a space that does not break has a place like a letter. CSS Text 3, section 4.1. */
const visibleCharacter = /[^ \t\n\r\f]/;

/** Whether the rendering of an element is skipped altogether: CSS Containment 2, section 4. */
const isSkipped = (element: Element, { display }: CSSStyleDeclaration) =>
  display !== 'contents' && !element.checkVisibility();

function joined(a: Box, b: Box): Box {
  if (b.width === 0 || b.height === 0) return a;
  const [x, y] = [Math.min(a.x, b.x), Math.min(a.y, b.y)];
  return {
    x,
    y,
    width: Math.max(a.x + a.width, b.x + b.width) - x,
    height: Math.max(a.y + a.height, b.y + b.height) - y,
  };
}

/**
 * Text counts with its lines over the whole width of its block, and moves with the beginning of its first line. Where a block holds
 * blocks and text side by side, the browser wraps the text in boxes of its own, which it does not count.
 */
function addText(text: Text, { clip, frame, block }: Surroundings, found: Map<Node, NodePlace>): void {
  if (block.mixed) return;
  const range = nativeDocument.createRange();
  range.selectNodeContents(text);
  const lines = range.getBoundingClientRect();
  const [first] = range.getClientRects();
  if (!first || lines.width === 0) return;
  const around = native(block.element).getBoundingClientRect();
  const whole = { x: around.x, y: lines.y, width: around.width, height: lines.height };
  found.set(text, { box: { ...whole, x: first.x, y: first.y }, whole, clip, frame, block: around });
}

function isBlockLevel(element: Element): boolean {
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
const isReplaced = (element: Element) => replaced.has(native(element).localName);

/** The browser does not count boxes in which nothing is drawn: empty ones without a background or border. */
function isDrawn(element: Element, style: CSSStyleDeclaration): boolean {
  if (isReplaced(element) || native(element).childNodes.length > 0) return true;
  return (
    style.backgroundImage !== 'none' ||
    isColour(style.backgroundColor) ||
    ['top', 'right', 'bottom', 'left'].some(
      (side) => Number.parseFloat(style.getPropertyValue(`border-${side}-width`)) > 0,
    )
  );
}

const cut = (box: Box, clip: Box | null): Box | null => (clip && intersect(box, clip)) ?? null;
