import { toDecimals } from '../core/wording/rounding.js';
import {
  awaitedImages,
  sameDocument,
  type LoggedRequest,
  type Measurement,
  type ObservedPlacement,
  type VisitRecord,
} from '../browser/index.js';
import { largestOfEqual } from '../core/layout/largest-paint.js';
import { waitingLook } from '../core/likeness/waiting-look.js';
import type { Pixels } from '../core/likeness/index.js';
import type {
  Download,
  PictureWrap,
  Slot,
  VisitRecord as SavedVisit,
  WaitingLook,
} from '../core/run/index.js';
import { pageShift } from './shifts.js';
import type { SiteUrls } from './site-urls.js';

/** A visit reduced to what the run needs of it; measurements of one element are joined. */
export interface VisitSummary {
  visit: SavedVisit;
  baseUrl: string;
  observed: ObservedElement[];
  matched: ReadonlyMap<string, readonly string[]>;
  scripted: boolean;
  /** Style sheets that were asked for, as paths. */
  sheets: string[];
  refused: string[];
  /** Hosts that were refused to what no page's log shows: workers, sockets, what is fetched in advance. */
  unlisted: string[];
  incomplete: string[];
  /** By which media conditions and lengths count, CSS px; null where nothing was seen. */
  viewport: Measurement['layoutViewport'] | null;
  /** By the selectors that the releases name: the node behind each. */
  released: ReadonlyMap<string, string>;
  /** Of a redirected visit: the page that was shown instead. */
  leadsTo?: string;
}

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

const isImage = ({ resource, mimeType }: LoggedRequest) =>
  resource === 'Image' || mimeType.startsWith('image/');

/** Requests that the audit itself stopped are not downloads. */
const wasRefused = ({ failure }: LoggedRequest) => failure === 'inspector';

/** Said of a transfer that was still under way when the visit ended. */
export const unfinished = 'unfinished';

export interface Summarised {
  screen: string;
  /** The address that was asked for. */
  url: string;
  urls: SiteUrls;
  /** What the visitor sees while images are held. */
  heldView?: Pixels | undefined;
}

export function summarise(record: VisitRecord, { screen, url, urls, heldView }: Summarised): VisitSummary {
  const { final, firstView } = record;
  const elsewhere = record.landed !== '' && !sameDocument(record.landed, url);
  if (elsewhere)
    return {
      ...nothingSeen(screen, 'redirected'),
      refused: record.refused,
      leadsTo: urls.shorten(record.landed),
      incomplete: record.incomplete,
    };
  const finished = record.requests.filter(({ state }) => state === 'finished');
  const downloads = record.requests
    .filter((request) => isImage(request) && !wasRefused(request))
    .map((request) => toDownload(request, urls))
    .sort(byUrl);
  return {
    visit: {
      screen,
      state: !final ? 'unseen' : record.incomplete.length > 0 ? 'partial' : 'complete',
      ...trafficOf(downloads),
      allBytes: sumOf(finished),
      documentHeight: final?.documentHeight ?? 0,
      documentWidth: final?.documentWidth ?? 0,
      largestPaint: largestIn(firstView)?.selector ?? firstView?.largestPaint ?? null,
      shift: pageShift(record.releases, urls),
      downloads,
    },
    baseUrl: final?.baseUrl ?? '',
    viewport: final?.layoutViewport ?? null,
    observed: final ? joinMeasurements(record, final, heldView, downloads, urls) : [],
    released: nodesOf(record),
    matched: record.matched,
    scripted: final?.scripted ?? false,
    sheets: finished
      .filter(({ resource }) => resource === 'Stylesheet')
      .map((request) => urls.shorten(request.url)),
    refused: record.refused,
    unlisted: [],
    incomplete: record.incomplete,
  };
}

/** What the images of a visit come to. What a server sends with an error is no image. */
export function trafficOf(
  downloads: readonly Download[],
): Pick<SavedVisit, 'firstView' | 'whole' | 'byItself'> {
  const delivered = downloads.filter(({ status }) => status < 400);
  const sum = (some: readonly Download[]) => ({ downloads: some.length, bytes: sumOf(some) });
  const of = (began: Download['began']) => sum(delivered.filter((each) => each.began === began));
  return { firstView: of('first-view'), whole: sum(delivered), byItself: of('by-itself') };
}

/** A visit of which there is nothing to count. */
export function nothingSeen(screen: string, state: 'redirected' | 'unseen'): VisitSummary {
  const none = { downloads: 0, bytes: 0 };
  return {
    visit: {
      screen,
      state,
      firstView: none,
      whole: none,
      byItself: none,
      allBytes: 0,
      documentHeight: 0,
      downloads: [],
      documentWidth: 0,
      largestPaint: null,
      shift: { score: 0, observed: 0, releases: [] },
    },
    baseUrl: '',
    viewport: null,
    observed: [],
    released: new Map(),
    matched: new Map(),
    sheets: [],
    scripted: false,
    refused: [],
    unlisted: [],
    incomplete: [],
  };
}

/** The nodes behind the selectors by which the releases speak of images: both were taken at one moment. */
function nodesOf({ waiting }: VisitRecord): Map<string, string> {
  return new Map(waiting?.placements.map(({ selector, node }) => [selector, node]));
}

function toDownload(request: LoggedRequest, urls: SiteUrls): Download {
  const { bytes, mimeType: type, status, began, scrollDepth, state } = request;
  const failure = state === 'running' ? unfinished : request.failure;
  const url = urls.shorten(request.url);
  return { url, bytes, type, status, began, scrollDepth, ...(failure === undefined ? {} : { failure }) };
}

function byUrl(a: Download, b: Download): number {
  return a.url < b.url ? -1 : a.url > b.url ? 1 : a.scrollDepth - b.scrollDepth;
}

function sumOf(items: readonly { bytes: number }[]): number {
  return items.reduce((sum, { bytes }) => sum + bytes, 0);
}

function joinMeasurements(
  { firstView, waiting, later, pictureWraps, followingFile, widthLimits }: VisitRecord,
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
  const largest = largestIn(firstView);
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
      limitWidth: widthLimits.get(element.node) ?? element.limitWidth,
    }));
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
  const { box, concealed, behind, fit, widthFrom, heightFrom, limitWidth } = then;
  return {
    ...element,
    ...{ box, concealed, behind, fit, widthFrom, heightFrom, limitWidth },
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
  }));

/** The image of the largest paint of the first view; undefined where that is something else. */
function largestIn(firstView: Measurement | undefined): ObservedPlacement | undefined {
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
