import type { ImageFile, PicturePrice } from './file-types.js';
import type { Finding, Fix } from './fix-types.js';
import type { LedgerEntry, PricingSummary } from './ledger-types.js';
import type { Placement } from './placement-types.js';

export type * from './file-types.js';
export type * from './fix-types.js';
export type * from './ledger-types.js';
export type * from './placement-types.js';
export type * from './offer-types.js';

/**
 * The saved run: what one audit saw and concluded. All lengths are CSS px unless a name says device px,
 * all sizes are bytes of the encoded body (`encodedBodySize` of W3C Resource Timing: headers not counted),
 * and all URLs on the audited site are written as paths from its root.
 */
export interface Run {
  format: 'yukkuri-run/1';
  site: SiteSummary;
  screens: Screen[];
  pages: PageRecord[];
  placements: Placement[];
  files: ImageFile[];
  sweeps: SlotSweep[];
  prices: PicturePrice[];
  pricing: PricingSummary;
  picks: PickAgreement;
  findings: Finding[];
  fixes: Fix[];
  ledger: LedgerEntry[];
  totals: Totals;
  trifles: TrifleCount;
  refused: RefusedRequest[];
  /** Paths that the user's traffic counts but the site has no audited page for. */
  strangeTraffic: { path: string; visits: number }[];
  incomplete: Incomplete[];
  meta: RunMeta;
}

export interface SiteSummary {
  kind: 'folder';
  /** The folder's own name, never its path. */
  name: string;
  basePath: string;
}

export interface Screen {
  name: string;
  /** CSS px. */
  width: number;
  /** CSS px. */
  height: number;
  /** Device px per CSS px. */
  density: number;
  touch: boolean;
  /** Share of visits, 0 to 1; the shares of a run sum to 1. */
  share: number;
}

export interface PageRecord {
  path: string;
  /** Site-relative file the page was read from. */
  file: string;
  /** Share of visits, 0 to 1; the weights of a run sum to 1. */
  weight: number;
  visits: VisitRecord[];
  /** What visitors without script see; null for a page that has none. */
  withoutScript: WithoutScript | null;
}

export interface WithoutScript {
  /** Addresses of the images that were shown, sorted. */
  urls: string[];
}

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

/** A placement's slot over the width of the viewport, and the `sizes` that says it. */
export interface SlotSweep {
  placement: string;
  /** Straight stretches: viewport and slot width at their two ends, CSS px. */
  pieces: { from: number; slotFrom: number; to: number; slotTo: number }[];
  /** The attribute to write; null where it cannot be said. */
  write: string | null;
  /** Why it cannot be said. */
  reason: string | null;
  /** Share of the swept widths at which the text is near enough, 0 to 1. */
  holds: number;
  /** Largest distance between text and slot, CSS px. */
  worst: number;
  /** The slot's only width, CSS px, if it has one. */
  constant: number | null;
}

export interface PickAgreement {
  strategy: string;
  agree: number;
  compared: number;
  disagreements: PickDisagreement[];
}

export interface PickDisagreement {
  placement: string;
  screen: string;
  predicted: string | null;
  observed: string | null;
  reason: string;
}

/** Image bytes of an average visit to a page of the site. */
export interface ScreenTotals {
  screen: string;
  firstView: number;
  whole: number;
  /** Each download by the probability that a visit causes it. */
  expected: number;
  /** The same with every fix made. */
  expectedAfter: number;
  /** All resources of the page scrolled to its end. */
  allBytes: number;
}

export interface Totals {
  screens: ScreenTotals[];
  average: ScreenTotals;
}

export interface TrifleCount {
  findings: number;
  bytes: number;
}

export interface RefusedRequest {
  host: string;
  requests: number;
  pages: string[];
}

export interface Incomplete {
  page: string;
  screen: string | null;
  why: string;
}

export interface RunMeta {
  tool: string;
  browser: string;
  encoder: string;
  startedAt: string;
  elapsedMs: number;
}
