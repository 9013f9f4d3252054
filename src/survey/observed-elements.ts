import {
  awaitedImages,
  type Measurement,
  type ObservedPlacement,
  type VisitRecord,
} from '../browser/index.js';
import { largestOfEqual } from '../core/layout/largest-paint.js';
import { waitingLook } from '../core/likeness/waiting-look.js';
import type { Pixels } from '../core/likeness/index.js';
import type { Download, PictureWrap, Slot, WaitingLook } from '../core/run/index.js';
import { toDecimals } from '../core/wording/rounding.js';
import { namesOneFile, widthsElsewhere } from './copied-images.js';
import type { SiteUrls } from './site-urls.js';

/** An element with an image, of which the looks of one visit are joined. */
export interface ObservedElement extends Omit<ObservedPlacement, 'box'> {
  slot: Slot | null;
  /** Whether it came into view by itself once the page was let be. */
  seenLater: boolean;
  whileWaiting: Slot | null;
  beforeScroll: Slot | null;
  largestPaint: boolean;
  waitingLook: WaitingLook | null;
  pictureWrap: PictureWrap | null;
  followsFile: boolean;
  /** Whether a script of the page writes its `src`. */
  addressed: boolean;
  /** How wide a script shows its file elsewhere, CSS px; 0 where none does. */
  widthElsewhere: number;
  /** Whether another image shows the same file, which no script names. */
  sharesFile: boolean;
  /** Whether its file was in view for a time in another element, which shows another file now. */
  shownByOther: boolean;
}

/** Positions to the hundredth of a CSS px: finer than layout, which counts in 64ths, needs to be told. */
export function toSlot(box: ObservedPlacement['box']): Slot | null {
  return (
    box && {
      x: toDecimals(box.x, 2),
      y: toDecimals(box.y, 2),
      width: toDecimals(box.width, 2),
      height: toDecimals(box.height, 2),
    }
  );
}

/** The elements of a page, each with what the looks at it during a visit saw. */
export function joinMeasurements(
  { firstView, waiting, later, pictureWraps, followingFile, written, widthLimits }: VisitRecord,
  final: Measurement,
  heldView: Pixels | undefined,
  downloads: readonly Download[],
  urls: SiteUrls,
): ObservedElement[] {
  const boxes = (measurement: Measurement | undefined) =>
    new Map(measurement?.placements.map((element) => [keyOf(element), toSlot(element.box)]));
  const before = boxes(firstView);
  const held = boxes(waiting);
  const looks = looksWhileWaiting(waiting, heldView);
  const atFirst = seenIn([firstView]);
  const byItself = seenIn(later);
  const rewritten = rewrittenIn([firstView, ...later, final]);
  const largest = largestIn(firstView);
  const elsewhere = widthsElsewhere([firstView, ...later, final], written);
  const gone = goneFromView(final, [firstView, ...later]);
  return [...final.placements, ...vanished(final, [firstView, waiting], downloads, urls)]
    .map((element) => whenSeen(element, atFirst, byItself))
    .map(({ box, ...element }) => ({
      ...element,
      slot: toSlot(box),
      seenLater: byItself.has(keyOf(element)) && !atFirst.has(keyOf(element)),
      whileWaiting: held.get(keyOf(element)) ?? null,
      beforeScroll: before.get(keyOf(element)) ?? null,
      largestPaint: largest !== undefined && largest.node === element.node,
      waitingLook: looks.get(keyOf(element)) ?? null,
      pictureWrap: pictureWraps.get(element.node) ?? null,
      followsFile: followingFile.has(element.node),
      addressed: written.addressed.has(element.node) || rewritten.has(element.node),
      widthElsewhere: namesOneFile(element) ? (elsewhere.get(element.node) ?? 0) : 0,
      sharesFile: written.sharing.has(element.node),
      shownByOther: !element.seen && gone.has(element.currentSrc),
      limitWidth: widthLimits.get(element.node) ?? element.limitWidth,
    }));
}

/** Nodes of elements whose `src` was another one at some of these looks: scripts write it. */
function rewrittenIn(looks: readonly (Measurement | undefined)[]): Set<string> {
  const known = new Map<string, string>();
  const rewritten = new Set<string>();
  for (const { node, attributes } of looks.flatMap((look) => look?.placements ?? [])) {
    const src = attributes.find(([name]) => name === 'src')?.[1];
    if (src === undefined) continue;
    if (src !== (known.get(node) ?? src)) rewritten.add(node);
    known.set(node, src);
  }
  return rewritten;
}

/** Addresses that some element showed at one of these looks, and that none shows at the end: scripts put other files in their place. */
function goneFromView(final: Measurement, looks: readonly (Measurement | undefined)[]): Set<string> {
  const shown = looks.flatMap((look) => look?.placements.filter(({ seen }) => seen) ?? []);
  const atLast = new Set(final.placements.filter(({ seen }) => seen).map(({ currentSrc }) => currentSrc));
  return new Set(shown.map(({ currentSrc }) => currentSrc).filter((url) => url !== '' && !atLast.has(url)));
}

/** What can come into view, by the first of these looks at which it could. */
function seenIn(looks: readonly (Measurement | undefined)[]): Map<string, ObservedPlacement> {
  const seen = looks.flatMap((look) => look?.placements.filter((element) => element.seen) ?? []);
  return new Map(seen.reverse().map((element) => [keyOf(element), element]));
}

/** Slides move on: one that is out of view at the end is told as it was when it was in view. */
function whenSeen(
  element: ObservedPlacement,
  atFirst: ReadonlyMap<string, ObservedPlacement>,
  byItself: ReadonlyMap<string, ObservedPlacement>,
): ObservedPlacement {
  const key = keyOf(element);
  const then = element.seen ? undefined : (atFirst.get(key) ?? byItself.get(key));
  if (!then) return element;
  const { box, concealed, behind, fit, widthFrom, heightFrom, limitWidth, limitHeight } = then;
  return {
    ...element,
    ...{ box, concealed, behind, fit, widthFrom, heightFrom, limitWidth, limitHeight },
    seen: atFirst.has(key),
  };
}

/** The elements of one look at a page, of which nothing earlier is known. */
export const observedIn = (page: Measurement): ObservedElement[] =>
  page.placements.map(({ box, ...element }) => ({
    ...element,
    slot: toSlot(box),
    seenLater: false,
    whileWaiting: null,
    beforeScroll: null,
    largestPaint: false,
    waitingLook: null,
    pictureWrap: null,
    followsFile: false,
    addressed: false,
    widthElsewhere: 0,
    sharesFile: false,
    shownByOther: false,
  }));

/** The image of the largest paint of the first view; undefined where that is something else. */
export function largestIn(firstView: Measurement | undefined): ObservedPlacement | undefined {
  const reported = firstView?.placements.find(({ selector }) => selector === firstView.largestPaint);
  if (!firstView || !reported) return undefined;
  const images = firstView.placements.filter(
    ({ kind, complete }) => (kind === 'img' || kind === 'picture') && complete,
  );
  const node = largestOfEqual(reported.node, images, {
    width: firstView.viewportWidth,
    height: firstView.viewportHeight,
  });
  return firstView.placements.find((each) => each.node === node) ?? reported;
}

/** Images that a script took away once their file had failed: what they asked for is broken all the same. */
function vanished(
  final: Measurement,
  earlier: readonly (Measurement | undefined)[],
  downloads: readonly Download[],
  urls: SiteUrls,
): ObservedPlacement[] {
  const failed = new Set(downloads.filter(({ status }) => status >= 400).map(({ url }) => url));
  const known = new Set(final.placements.map(keyOf));
  return earlier.flatMap((measurement) =>
    (measurement?.placements ?? []).flatMap((element) => {
      const written = element.attributes.find(([name]) => name === 'src')?.[1];
      const url = written === undefined ? '' : urls.resolve(written, measurement?.baseUrl ?? '');
      if (known.has(keyOf(element)) || !failed.has(url)) return [];
      known.add(keyOf(element));
      return [{ ...element, box: null, complete: true, naturalWidth: 0 }];
    }),
  );
}

/** An element may show several images: by itself and by its styles. */
const keyOf = ({ kind, node, style }: Pick<ObservedPlacement, 'kind' | 'node' | 'style'>) =>
  [kind, node, style?.property ?? '', style?.layer ?? 0].join(' ');

function looksWhileWaiting(
  waiting: Measurement | undefined,
  heldView: Pixels | undefined,
): Map<string, WaitingLook | null> {
  const looks = new Map<string, WaitingLook | null>();
  if (!heldView) return looks;
  for (const element of waiting ? awaitedImages(waiting) : [])
    looks.set(keyOf(element), waitingLook(heldView, element.box, element.behind));
  return looks;
}
