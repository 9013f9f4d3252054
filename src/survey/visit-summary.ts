import { toDecimals } from '../core/wording/rounding.js';
import type { LoggedRequest, Measurement, ObservedPlacement, VisitRecord } from '../browser/index.js';
import { waitingLook } from '../core/likeness/waiting-look.js';
import type { Pixels } from '../core/likeness/index.js';
import type { Download, Slot, VisitRecord as SavedVisit, WaitingLook } from '../core/run/index.js';
import { pageShift } from './shifts.js';
import type { SiteUrls } from './site-urls.js';

/** A visit reduced to what the run needs of it; measurements of one element are joined. */
export interface VisitSummary {
  visit: SavedVisit;
  baseUrl: string;
  observed: ObservedElement[];
  matched: string[];
  scripted: boolean;
  /** Style sheets that were asked for, as paths. */
  sheets: string[];
  refused: string[];
  incomplete: string[];
}

export interface ObservedElement extends Omit<ObservedPlacement, 'box'> {
  slot: Slot | null;
  whileWaiting: Slot | null;
  beforeScroll: Slot | null;
  largestPaint: boolean;
  waitingLook: WaitingLook | null;
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

export function summarise(
  record: VisitRecord,
  screen: string,
  urls: SiteUrls,
  heldView: Pixels | undefined,
): VisitSummary {
  const { final, firstView, waiting } = record;
  const finished = record.requests.filter(({ state }) => state === 'finished');
  const downloads = record.requests
    .filter((request) => isImage(request) && !wasRefused(request))
    .map((request) => toDownload(request, urls))
    .sort(byUrl);
  const inFirstView = downloads.filter(({ began }) => began === 'first-view');
  return {
    visit: {
      screen,
      firstView: { downloads: inFirstView.length, bytes: sumOf(inFirstView) },
      whole: { downloads: downloads.length, bytes: sumOf(downloads) },
      allBytes: sumOf(finished),
      documentHeight: final?.documentHeight ?? 0,
      documentWidth: final?.documentWidth ?? 0,
      largestPaint: firstView?.largestPaint ?? null,
      shift: pageShift(record.releases, urls),
      downloads,
    },
    baseUrl: final?.baseUrl ?? '',
    observed: final ? joinMeasurements(final, firstView, waiting, heldView) : [],
    matched: record.matched,
    scripted: final?.scripted ?? false,
    sheets: finished.filter(({ resource }) => resource === 'Stylesheet').map(({ url }) => urls.shorten(url)),
    refused: record.refused,
    incomplete: record.incomplete,
  };
}

function toDownload(request: LoggedRequest, urls: SiteUrls): Download {
  const { bytes, mimeType: type, status, began, scrollDepth, failure } = request;
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
  final: Measurement,
  firstView: Measurement | undefined,
  waiting: Measurement | undefined,
  heldView: Pixels | undefined,
): ObservedElement[] {
  const boxes = (measurement: Measurement | undefined) =>
    new Map(measurement?.placements.map((element) => [keyOf(element), toSlot(element.box)]));
  const before = boxes(firstView);
  const held = boxes(waiting);
  const looks = looksWhileWaiting(waiting, heldView);
  return final.placements.map(({ box, ...element }) => ({
    ...element,
    slot: toSlot(box),
    whileWaiting: held.get(keyOf(element)) ?? null,
    beforeScroll: before.get(keyOf(element)) ?? null,
    largestPaint: firstView?.largestPaint === element.selector,
    waitingLook: looks.get(keyOf(element)) ?? null,
  }));
}

/** An element may show several images: by itself and by its styles. */
export const keyOf = ({ kind, selector, style }: Pick<ObservedPlacement, 'kind' | 'selector' | 'style'>) =>
  [kind, selector, style?.property ?? '', style?.layer ?? 0].join(' ');

function looksWhileWaiting(
  waiting: Measurement | undefined,
  heldView: Pixels | undefined,
): Map<string, WaitingLook | null> {
  const looks = new Map<string, WaitingLook | null>();
  if (!heldView) return looks;
  for (const element of waiting?.placements ?? []) {
    const { kind, box, behind } = element;
    const isWaiting = (kind === 'img' || kind === 'picture') && !element.complete;
    if (box && isWaiting) looks.set(keyOf(element), waitingLook(heldView, box, behind));
  }
  return looks;
}
