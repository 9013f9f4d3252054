import { intersect, unionArea, type Rectangle } from '../layout/rectangle.js';

/** One thing on the page before and after: an element's box or a run of text, in viewport coordinates. */
export interface MovedNode {
  name: string;
  before: Rectangle;
  after: Rectangle;
  /** What ancestors that clip leave visible; the whole box if left out, nothing if null. */
  seenBefore?: Rectangle | null;
  seenAfter?: Rectangle | null;
}

export interface Shift {
  /** Layout-shift value, 0 to 1. */
  score: number;
  /** Share of the viewport that moved things covered before or cover after. */
  impact: number;
  /** Largest distance that anything moved, as a share of the viewport's longer side. */
  distance: number;
  /** What moved, with its distance in CSS px and where it was and is; the largest distance first. */
  moved: { name: string; by: number; from: Rectangle; to: Rectangle }[];
}

/** Nearer than this nothing counts as moved, CSS px. Layout Instability, section "Unstable nodes". */
const movementThreshold = 3;

/**
 * The layout-shift value of one frame, by the W3C Layout Instability specification: the share of the viewport that unstable nodes cover
 * before and after, times the largest distance that one of them moved over the viewport's longer side.
 * @param nodes everything that was there before and is there after; CSS px in viewport coordinates
 */
export function layoutShift(
  nodes: readonly MovedNode[],
  { width, height }: { width: number; height: number },
): Shift {
  const view = { x: 0, y: 0, width, height };
  const region: Rectangle[] = [];
  const moved: Shift['moved'] = [];
  for (const { name, before, after, seenBefore = before, seenAfter = after } of nodes) {
    const by = Math.max(Math.abs(after.x - before.x), Math.abs(after.y - before.y));
    if (by < movementThreshold) continue;
    const seen = [seenBefore, seenAfter].flatMap((box) => (box && intersect(box, view)) ?? []);
    if (seen.length === 0) continue;
    // Chromium passes over what only slides sideways into view or out of it, as in carousels.
    if (seen.length === 1 && Math.abs(after.y - before.y) < movementThreshold) continue;
    region.push(...seen);
    moved.push({ name, by, from: before, to: after });
  }
  const largest = Math.max(0, ...moved.map(({ by }) => by));
  const impact = unionArea(region) / (width * height);
  const distance = Math.min(1, largest / Math.max(width, height));
  moved.sort((a, b) => b.by - a.by || (a.name < b.name ? -1 : 1));
  return { score: impact * distance, impact, distance, moved };
}

/** A layout-shift entry as browsers report it. */
export interface ShiftEntry {
  value: number;
  /** ms since the page began. */
  startTime: number;
}

/** Longest pause within a session window, and longest window, ms. */
const [mostPause, mostWindow] = [1000, 5000];

/**
 * The largest session window: shifts with less than a second between two and at most five seconds in all are added up. This is how
 * cumulative layout shift is defined since 2021.
 */
export function largestSessionWindow(entries: readonly ShiftEntry[]): number {
  let [first, last, sum, largest] = [Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY, 0, 0];
  for (const { value, startTime } of [...entries].sort((a, b) => a.startTime - b.startTime)) {
    const goesOn = startTime - last < mostPause && startTime - first < mostWindow;
    sum = goesOn ? sum + value : value;
    if (!goesOn) first = startTime;
    last = startTime;
    largest = Math.max(largest, sum);
  }
  return largest;
}
