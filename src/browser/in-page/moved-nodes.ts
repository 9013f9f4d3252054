import { native, nativeDocument } from './native.js';
import { intersect } from '../../core/layout/rectangle.js';
import { isBlockLevel, isDrawn, isReplaced, isSkipped } from './counted-boxes.js';
import { uniqueSelector } from './selector.js';
import type { Box, SeenShifts } from './protocol.js';

interface Corner {
  x: number;
  y: number;
}

/** What was seen of a node when it was looked at last. */
interface Known {
  /** Where it begins and how large it is, in viewport coordinates. */
  box: Box;
  /** The same with what reaches out of it. */
  whole: Box;
  /** Whether its movements count. */
  counts: boolean;
  /** Whether it cuts what reaches out of it. */
  clips: boolean;
  /** Number of the look. */
  look: number;
  /** Number of the look at which it was walked through, and its corner then: what is in it was seen relative to that. */
  walked: number;
  corner: Corner;
}

let known = new WeakMap<Node, Known>();
let look = 0;

/** What was seen so far is forgotten. */
export function forgetPlaces(): void {
  known = new WeakMap();
}

/** Where a node is, and what is around it. */
interface Place {
  box: Box;
  whole: Box;
  /** Corner of the nearest ancestor that clips; null for none. */
  frame: Corner | null;
  /** Of text, the corner of its block. */
  block?: Corner | undefined;
}

/** A node that counted before and does now: what it moved, as far as it is or was in view. */
function noteMove(
  node: Node,
  before: Place,
  after: Place,
  clip: Box | null,
  moved: SeenShifts['moved'],
): void {
  const carried = {
    x: (after.frame?.x ?? 0) - (before.frame?.x ?? 0),
    y: (after.frame?.y ?? 0) - (before.frame?.y ?? 0),
  };
  const box = shifted(before.box, carried);
  if (Math.max(Math.abs(after.box.x - box.x), Math.abs(after.box.y - box.y)) < 1) return;
  if (after.block && before.block && movesAlong(before, after, before.block, after.block)) return;
  // What was there before counts as far as it would be in view now: on touch screens the view grows with the page.
  // Of text the browser remembers where it began, but not how many lines it had.
  const { height } = node instanceof Text ? after.whole : before.whole;
  const seenBefore = cut({ ...shifted(before.whole, carried), height }, clip);
  const seenAfter = cut(after.whole, clip);
  if (seenBefore || seenAfter)
    moved.push({ name: nameOf(node), before: box, after: after.box, seenBefore, seenAfter });
}

/** Text that goes where its block goes is not counted beside it, CSS px. */
const ownMovement = 3;

function movesAlong(before: Place, after: Place, from: Corner, to: Corner): boolean {
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

/**
 * Looks where everything is, and gives what moved since the last look.
 * @param view what is in view, CSS px
 */
export function lookAround({ width, height }: { width: number; height: number }): SeenShifts['moved'] {
  const moved: SeenShifts['moved'] = [];
  const { body } = nativeDocument;
  if (!body) return moved;
  const view = { x: 0, y: 0, width, height };
  const was = { shift: { x: 0, y: 0 }, frame: null, block: { x: 0, y: 0 }, look };
  look++;
  walk(body, { view, clip: view, frame: null, block: blockOf(body), depth: 0, was }, moved);
  return moved;
}

/** Where an element stands in the walk. */
interface Surroundings {
  view: Box;
  /** What ancestors leave visible. */
  clip: Box | null;
  /** Corner of the nearest ancestor that clips. */
  frame: Corner | null;
  /** Nearest ancestor that is laid out as a block. */
  block: Block;
  /** Elements around it. */
  depth: number;
  was: Earlier;
}

/** What was around an element at the last look. */
interface Earlier {
  /** How far what is around it had gone by then since it was walked through. */
  shift: Corner;
  frame: Corner | null;
  /** Corner of the nearest ancestor that is laid out as a block. */
  block: Corner;
  /** Number of the look at which what is around it was walked through. */
  look: number;
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

/** What was seen of a node when it was there at the last look. */
function seenOf(node: Node, { look: earlier }: Earlier): Known | undefined {
  const seen = known.get(node);
  return seen?.look === earlier ? seen : undefined;
}

/**
 * Looks at an element and what is in it.
 * @returns the box of the element together with what reaches out of it: as one such box it is counted
 */
function walk(element: Element, around: Surroundings, moved: SeenShifts['moved']): Box | undefined {
  const { clip, frame, block, depth, was } = around;
  const { x, y, width, height } = native(element).getBoundingClientRect();
  const box = { x, y, width, height };
  const seen = seenOf(element, was);
  if (seen && isFarBelow(seen, box, around)) return passBy(seen, box);
  const style = getComputedStyle(element);
  // What a closed disclosure holds has boxes of an earlier layout, and none of them is drawn.
  if (style.display === 'none' || isSkipped(element, style)) return undefined;
  const visible = style.visibility === 'visible';
  const clips = style.overflowX !== 'visible' || style.overflowY !== 'visible';
  const inline = style.display === 'inline' || style.display === 'contents';
  const before = seen && shifted(seen.box, was.shift);
  let whole = box;
  // Replaced elements have no children that are laid out on the page.
  if (!isReplaced(element) && depth < deepest) {
    const inner: Surroundings = {
      view: around.view,
      clip: clips ? cut(box, clip) : clip,
      frame: clips ? { x, y } : frame,
      block: inline ? block : blockOf(element),
      depth: depth + 1,
      was: {
        shift: before && seen ? { x: before.x - seen.corner.x, y: before.y - seen.corner.y } : was.shift,
        frame: before && seen?.clips ? { x: before.x, y: before.y } : was.frame,
        block: inline || !before ? was.block : { x: before.x, y: before.y },
        look: seen?.walked ?? never,
      },
    };
    for (const child of [...(native(element).shadowRoot?.childNodes ?? []), ...native(element).childNodes]) {
      if (child instanceof Element) {
        const reach = walk(child, inner, moved);
        if (reach && !clips) whole = joined(whole, reach);
      } else if (child instanceof Text && visible && visibleCharacter.test(child.data))
        lookAtText(child, inner, moved);
    }
  }
  const isCounted = visible && (!inline || isReplaced(element)) && isDrawn(element, style);
  const counts = isCounted && whole.width > 0 && whole.height > 0;
  if (counts && before && seen.counts) {
    const earlier = { box: before, whole: shifted(seen.whole, was.shift), frame: was.frame };
    noteMove(element, earlier, { box, whole, frame }, clip, moved);
  }
  known.set(element, { box, whole, counts, clips, look, walked: look, corner: { x, y } });
  return inline && !isReplaced(element) && box.width === 0 ? undefined : whole;
}

/** Of what was not there before nothing is known of what is in it. */
const never = -1;

/**
 * Whether an element and all that is in it was below what is in view, and lies so far below now that nothing of it can have come into view: pages
 * can hold tens of thousands, and are looked at after each image.
 */
function isFarBelow({ box, whole }: Known, now: Box, { view, was }: Surroundings): boolean {
  const above = Math.min(0, whole.y - box.y);
  return whole.y + was.shift.y >= view.height && now.y + above >= 2 * view.height;
}

/** What is far below goes where its element goes. */
function passBy(seen: Known, box: Box): Box {
  const { box: last, whole } = seen;
  seen.whole = {
    x: whole.x + box.x - last.x,
    y: whole.y + box.y - last.y,
    width: whole.width + box.width - last.width,
    height: whole.height + box.height - last.height,
  };
  seen.box = box;
  seen.look = look;
  return seen.whole;
}

/** White space collapses; a space that does not break has a place like a letter. CSS Text 3, section 4.1. */
const visibleCharacter = /[^ \t\n\r\f]/;

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
function lookAtText(text: Text, { clip, frame, block, was }: Surroundings, moved: SeenShifts['moved']): void {
  if (block.mixed) return;
  const range = nativeDocument.createRange();
  range.selectNodeContents(text);
  const lines = range.getBoundingClientRect();
  const [first] = range.getClientRects();
  if (!first || lines.width === 0) return;
  const around = native(block.element).getBoundingClientRect();
  const whole = { x: around.x, y: lines.y, width: around.width, height: lines.height };
  const box = { ...whole, x: first.x, y: first.y };
  const seen = seenOf(text, was);
  if (seen)
    noteMove(
      text,
      {
        box: shifted(seen.box, was.shift),
        whole: shifted(seen.whole, was.shift),
        frame: was.frame,
        block: was.block,
      },
      { box, whole, frame, block: around },
      clip,
      moved,
    );
  known.set(text, { box, whole, counts: true, clips: false, look, walked: never, corner: box });
}

const cut = (box: Box, clip: Box | null): Box | null => (clip && intersect(box, clip)) ?? null;
