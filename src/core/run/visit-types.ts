export interface Traffic {
  downloads: number;
  bytes: number;
}

export interface VisitRecord {
  screen: string;
  /** Images that began before any scroll. */
  firstView: Traffic;
  /** Images of the page scrolled to its end. */
  whole: Traffic;
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
  /** The elements that moved farthest, with their distance in CSS px. */
  moved: { name: string; by: number }[];
  /** How many moved. */
  count: number;
}

export type Began = 'first-view' | 'scrolled';

export interface Download {
  url: string;
  bytes: number;
  type: string;
  status: number;
  began: Began;
  /** Scroll position at which the download began, CSS px from the top of the document. */
  scrollDepth: number;
  /** Set when the transfer failed, in the browser's words. */
  failure?: string;
}
