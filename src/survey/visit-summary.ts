import { sameDocument, type LoggedRequest, type Measurement, type VisitRecord } from '../browser/index.js';
import type { Pixels } from '../core/likeness/index.js';
import type { Download, WindowHeights, VisitRecord as SavedVisit } from '../core/run/index.js';
import { joinMeasurements, largestIn, type ObservedElement } from './observed-elements.js';
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
  /** It ended because of its limit of time. */
  timedOut?: true;
  /** By which media conditions and lengths count, CSS px; null where nothing was seen. */
  viewport: Measurement['layoutViewport'] | null;
  /** The window that lazy images are near to or far from, and what is seen of it at once; null where nothing was seen. */
  window: WindowHeights | null;
  /** By the selectors that the releases name: the node behind each. */
  released: ReadonlyMap<string, string>;
  /** Of a redirected visit: the page that was shown instead. */
  leadsTo?: string;
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
  const { waiting, final, firstView } = record;
  // Images without room make a page wider than the screen only once they come.
  const looks = [waiting, firstView, final];
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
    window: highestOf(looks),
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
    ...(record.timedOut ? { timedOut: true } : {}),
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
    window: null,
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

function highestOf(looks: readonly (Measurement | undefined)[]): WindowHeights | null {
  const windows = looks.flatMap((look) =>
    look ? [{ height: look.viewportHeight, seen: look.seenHeight }] : [],
  );
  return windows.reduce<WindowHeights | null>((a, b) => (a && a.height >= b.height ? a : b), null);
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
