import type { Slot } from './placement-types.js';

export interface Traffic {
  downloads: number;
  bytes: number;
}

/**
 * What a visit saw: all of it; a part; nothing, because the page leads to another; or nothing at all. The last two count in no total and
 * no average.
 */
export type VisitState = 'complete' | 'partial' | 'redirected' | 'unseen';

export interface VisitRecord {
  screen: string;
  state: VisitState;
  /** Images that began before any scroll. */
  firstView: Traffic;
  /** Images of the page scrolled to its end. */
  whole: Traffic;
  /** Those among them that the page asked for by itself once it was quiet, or for another page. */
  byItself: Traffic;
  /** Bytes of every resource, images and others. */
  allBytes: number;
  /** Height of the whole document after the scroll, CSS px. */
  documentHeight: number;
  downloads: Download[];
  /** Width that can be scrolled to, CSS px; more than the screen's when the page scrolls sideways. */
  documentWidth: number;
  /** Selector of the element of the largest paint of the first view; null where there was none or it is gone. */
  largestPaint: string | null;
  shift: PageShift;
}

/** How a page jumps when its images arrive. Scores are layout-shift values, W3C Layout Instability. */
export interface PageShift {
  /** By our own arithmetic, all images arriving within one session window. */
  score: number;
  /** As the browser reported it for the same arrivals. */
  observed: number;
  releases: ShiftRelease[];
}

/** What one image moved when it arrived. */
export interface ShiftRelease {
  /** Null for the last release: all images that keep their box. */
  url: string | null;
  /** Selectors of the images with this address. */
  selectors: string[];
  score: number;
  observed: number;
  /** The elements that moved farthest, with their distance and where in the view they were and are, CSS px. */
  moved: { name: string; by: number; from?: Slot; to?: Slot }[];
  /** How many moved. */
  count: number;
}

/** In the first view, after a scroll, or by the page itself: by a timer once it was quiet, or in advance for another page. */
export type Began = 'first-view' | 'scrolled' | 'by-itself';

export interface Download {
  url: string;
  bytes: number;
  type: string;
  status: number;
  began: Began;
  /** How far the visitor had scrolled when the download began, CSS px of the screen: a page that is shown small is passed sooner. */
  scrollDepth: number;
  /** Set when the transfer failed, in the browser's words. */
  failure?: string;
}
