import { screenfulsTo, viewOf, waitsForScroll, windowOf } from '../layout/view-of.js';
import { reachAt, reachOfScroll, type ReachCurve } from '../layout/reach.js';
import type { Dimensions } from '../markup/index.js';
import type { Download, Placement, Screen } from '../run/types.js';
import type { FileBook, PlannedFile } from './file-book.js';
import type { ReadText } from './pick-text.js';

/** What one screen takes for a placement. */
export interface Taken {
  file: PlannedFile;
  /** Position of the element that offers it; 0 where that is not known. */
  source: number;
  density: number;
  dimensions: Dimensions | undefined;
  /** What `sizes` claims, CSS px; undefined where the file has no width descriptor. */
  claim: number | undefined;
  /** Of one transfer; NaN where nobody knows. */
  bytes: number;
  /** Probability that a visit causes the transfer for this placement, 0 to 1. */
  reach: number;
  inFirstView: boolean;
}

/** Probability that a visit causes a download as it was seen, 0 to 1. */
export function reachOfDownload(
  { began, scrollDepth }: Pick<Download, 'began' | 'scrollDepth'>,
  { height }: Pick<Screen, 'height'>,
  curve: ReachCurve,
): number {
  return began === 'first-view' ? 1 : reachOfScroll(scrollDepth, height, curve);
}

const unexplained = { source: 0, density: 1, dimensions: undefined, claim: undefined };

export interface TakenInput {
  placement: Placement;
  screen: Screen;
  input: { reach: ReachCurve; lazyDistance: number };
  book: FileBook;
  /** What the text says; left out where the text does not explain what was seen. */
  pick?: ReadText;
  lazyBefore?: boolean;
  /** How far it moves down once the images above it have come, CSS px; 0 if left out. */
  growthAbove?: number;
  /** Whether an image that is not lazy fetches the same file here: then it is not known when this one would. */
  hurried?: boolean;
}

/** @returns undefined where nothing is fetched for the placement */
export function takenBy(order: TakenInput): Taken | undefined {
  const {
    placement,
    screen,
    input,
    book,
    pick,
    lazyBefore = false,
    growthAbove = 0,
    hurried = false,
  } = order;
  const download = placement.downloads[screen.name];
  if (!download) return undefined;
  const seen = {
    reach: reachOfDownload(download, screen, input.reach),
    inFirstView: download.began === 'first-view',
  };
  const { bytes } = download;
  if (!pick) return { ...unexplained, file: book.existing(download.url), bytes, ...seen };
  const picked = pick(viewOf(placement, screen), placement.slots[screen.name]?.width);
  if (!picked) return undefined;
  const { url, source, density, dimensions, claim, lazy } = picked;
  const waits = lazy && (!lazyBefore || (hurried && hasRoom(placement, screen)));
  const when = waits
    ? putOff(placement, screen, seen, { ...input, growthAbove })
    : lazy === lazyBefore
      ? seen
      : atOnce;
  if (!when) return undefined;
  const file = book.at(url);
  // What was delivered may differ from the file by what the host does to it.
  const own = url === download.url ? bytes : (file.bytes ?? Number.NaN);
  return { file, source, density, dimensions, claim, bytes: own, ...when };
}

interface When {
  reach: number;
  inFirstView: boolean;
}

/** Without room an image counts as near, lazy or not. */
const hasRoom = ({ shown }: Placement, { name }: Screen) => (shown[name]?.whileWaiting?.height ?? 0) >= 2;

const atOnce: When = { reach: 1, inFirstView: true };

/**
 * When an image is fetched that is made lazy: as soon as it comes near enough; never if it has no box. Chromium loads what lies within a
 * distance of the viewport at once, and slides beside those in view too.
 */
function putOff(
  placement: Placement,
  screen: Screen,
  seen: When,
  { reach, lazyDistance, growthAbove }: TakenInput['input'] & { growthAbove: number },
): When | undefined {
  const shown = placement.shown[screen.name];
  const box = placement.slots[screen.name];
  // Browsers ask for images whose box is empty too, once that comes near; not for those that have none.
  if (shown?.seen === false) return box ? seen : undefined;
  const slot = shown?.beforeScroll;
  if (!seen.inFirstView || !slot || !wouldWait(placement, screen, growthAbove, lazyDistance)) return seen;
  const screenfuls = screenfulsTo(slot.y, windowOf(placement, screen), lazyDistance);
  return { reach: reachAt(screenfuls, reach), inFirstView: false };
}

/** Whether an image would wait for a scroll if it were lazy: browsers ask for what is near before the images above it have come. */
export function wouldWait(
  placement: Placement,
  screen: Screen,
  growthAbove: number,
  lazyDistance: number,
): boolean {
  const slot = placement.shown[screen.name]?.beforeScroll;
  return !!slot && waitsForScroll(placement, { ...slot, y: slot.y - growthAbove }, screen, lazyDistance);
}
