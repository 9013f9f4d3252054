import type { Download, Screen, Slot } from '../../core/run/index.js';
import { isLazy } from '../offered-images.js';
import type { VisitSummary } from '../visit-summary.js';
import type { ObservedElement } from '../observed-elements.js';

/** What was read of a page, held against what a visit of it saw. */
export interface Agreement {
  /** Addresses of all screens: what an image takes, and what is fetched. */
  compared: number;
  agreed: number;
  /** One of those that are not as they were read, in words. */
  example: string | undefined;
}

/** Sides may differ by so much, CSS px or as a share: `sizes` are fitted no nearer. */
const sideTolerance = 1;
const sideShare = 0.005;

/** Tops, and depths at which downloads begin, may differ by so much of a screen: what hangs on them changes slower. */
const topShare = 0.25;
const depthShare = 1;

/** Shifts may differ by so much, or by so much of themselves: what moved has other text on each page. */
const shiftTolerance = 0.02;
const shiftShare = 0.1;

/** Compares what was read of a page on one screen with what was seen, address by address. */
export function compareLook(read: VisitSummary, seen: VisitSummary, screen: Screen): Agreement {
  const differences = compareSummaries(read, seen, screen);
  const [difference] = differences.flatMap((each) => each ?? []);
  return {
    compared: differences.length,
    agreed: differences.filter((each) => each === undefined).length,
    example: difference === undefined ? undefined : `${difference} on ${screen.name}`,
  };
}

/** For everything that is compared: how it differs; undefined where it does not. */
function compareSummaries(read: VisitSummary, seen: VisitSummary, screen: Screen): (string | undefined)[] {
  const elements = Math.max(read.observed.length, seen.observed.length);
  const downloads = new Map(read.visit.downloads.map((each) => [each.url, each]));
  const fetched = new Map(seen.visit.downloads.map((each) => [each.url, each]));
  const urls = [...new Set([...downloads.keys(), ...fetched.keys()])].sort();
  return [
    ...Array.from({ length: elements }, (_, index) =>
      elementDifference(read.observed[index], seen.observed[index], screen),
    ),
    ...urls.map((url) => downloadDifference(url, downloads.get(url), fetched.get(url), screen)),
    ...(seen.visit.shift.score === 0 && read.visit.shift.score === 0
      ? []
      : [shiftDifference(read.visit.shift.score, seen.visit.shift.score)]),
  ];
}

function elementDifference(
  read: ObservedElement | undefined,
  seen: ObservedElement | undefined,
  screen: Screen,
): string | undefined {
  if (!read || !seen) return 'an image more or less';
  const { selector } = seen;
  if (read.kind === 'css-image') return undefined;
  if (read.currentSrc !== seen.currentSrc) return `another file at ${selector}`;
  for (const moment of ['whileWaiting', 'beforeScroll', 'slot'] as const)
    if (!sameBox(read[moment], seen[moment], screen)) return `another box of ${selector}`;
  if (isLazy(seen) && read.largestPaint !== seen.largestPaint)
    return `another largest paint than ${selector}`;
  const qualities = ({
    seen: isSeen,
    concealed,
    seenLater,
    behind,
    fit,
    widthFrom,
    heightFrom,
  }: ObservedElement) => JSON.stringify([isSeen, concealed, seenLater, behind, fit, widthFrom, heightFrom]);
  return qualities(read) === qualities(seen) ? undefined : `another look of ${selector}`;
}

function sameBox(read: Slot | null, seen: Slot | null, screen: Screen): boolean {
  if (!read || !seen) return read === seen;
  const near = (a: number, b: number) => Math.abs(a - b) <= Math.max(sideTolerance, sideShare * b);
  return (
    near(read.width, seen.width) &&
    near(read.height, seen.height) &&
    near(read.x, seen.x) &&
    Math.abs(read.y - seen.y) <= topShare * screen.height
  );
}

function downloadDifference(
  url: string,
  read: Download | undefined,
  seen: Download | undefined,
  screen: Screen,
): string | undefined {
  if (!seen) return `${url} is not fetched`;
  if (!read) return `${url} is fetched`;
  const sameStart =
    read.began === seen.began && Math.abs(read.scrollDepth - seen.scrollDepth) <= depthShare * screen.height;
  return sameStart && read.bytes === seen.bytes ? undefined : `${url} is fetched at another time`;
}

const shiftDifference = (read: number, seen: number) =>
  Math.abs(read - seen) <= Math.max(shiftTolerance, shiftShare * seen) ? undefined : 'another layout shift';
