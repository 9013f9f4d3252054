import type { AgainTotals, HostGuess, ImageAnswer } from './answer-types.js';
import type { ImageFile, PicturePrice } from './file-types.js';
import type { Finding, Fix } from './fix-types.js';
import type { LedgerEntry, PricingSummary } from './ledger-types.js';
import type { Placement } from './placement-types.js';
import type { VisitRecord } from './visit-types.js';

export type * from './answer-types.js';
export type * from './file-types.js';
export type * from './fix-types.js';
export type * from './ledger-types.js';
export type * from './placement-types.js';
export type * from './offer-types.js';
export type * from './report-pictures.js';
export type * from './visit-types.js';

/**
 * The saved run: what one audit saw and concluded. All lengths are CSS px unless a name says device px,
 * all sizes are bytes of the encoded body (`encodedBodySize` of W3C Resource Timing: headers not counted),
 * and all URLs on the audited site are written as paths from its root.
 */
export interface Run {
  format: 'yukkuri-run/2';
  site: SiteSummary;
  screens: Screen[];
  conditions: Conditions;
  pages: PageRecord[];
  placements: Placement[];
  files: ImageFile[];
  /** What servers said of images, where that is known; none in runs of before. */
  answers?: ImageAnswer[];
  sweeps: SlotSweep[];
  /** Skeletons of which only some pages were swept; none in runs of before. */
  sweptTemplates?: SweepTemplate[];
  /** Templates of a large site, of which some pages were read from their files instead of being visited; none in runs of before. */
  readTemplates?: ReadTemplate[];
  prices: PicturePrice[];
  pricing: PricingSummary;
  picks: PickAgreement;
  findings: Finding[];
  fixes: Fix[];
  ledger: LedgerEntry[];
  totals: Totals;
  /** Hosts that seem to resize by address and were not told of; left out where there are none. */
  hostGuesses?: HostGuess[];
  /** What visits that come back pay once more; left out where nothing is known of it. */
  again?: AgainTotals;
  trifles: TrifleCount;
  /** By choice, in the configuration or in the markup. */
  leftOut: LeftOut[];
  /** Downloads that no element of a page shows, those with the most bytes first. */
  notJudged: NotJudged[];
  /** Pages that only lead to another. */
  redirected: { page: string; to: string }[];
  refused: RefusedRequest[];
  /** Paths that the user's traffic counts but the site has no audited page for. */
  strangeTraffic: { path: string; visits: number }[];
  incomplete: Incomplete[];
  meta: RunMeta;
}

/** What holds for all visits of a run. */
export interface Conditions {
  /** How far below the viewport this browser begins to load lazy images, CSS px; asked of it once in each run. */
  lazyDistance: number;
  /** How far the pages' own timers of a second and more were run ahead once a page was quiet, ms. */
  timersRunAheadMs: number;
  /** The density up to which pictures are to be sharp; null for each screen's own. */
  sharpness: number | null;
  /** Shares of visits that scroll so many screenfuls. */
  reach: { viewports: number; share: number }[];
}

export interface SiteSummary {
  /** A folder that was served for the audit, or a site at an address. */
  kind: 'folder' | 'live';
  /** The folder's own name, never its path; the host of an address. */
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
  /** What relative addresses of the page are resolved against: a path of the site, or an absolute URL. */
  base: string;
  /** Share of visits, 0 to 1; the weights of a run sum to 1. */
  weight: number;
  visits: VisitRecord[];
  /** What visitors without script see; null for a page that has none. */
  withoutScript: WithoutScript | null;
  /** Origins that it connects to before it asks for something there: by `preconnect`. Left out where there are none. */
  connects?: string[];
  /** What its content policies keep from working of what may be pasted, sorted. Left out for nothing. */
  forbids?: ForbiddenByPolicy[];
  /** Files of style sheets whose hash it states: another content would not be applied. Left out where there are none. */
  sealedSheets?: string[];
  /** Whether it was not visited: what is told of it was read from its file, by what visits of its template saw. */
  read?: true;
  /** Names of the screens on which a page that was read was visited all the same; left out for none. */
  visitedOn?: string[];
}

/** Styles in attributes, pictures that are written into an address, and style elements with another text than theirs. */
export type ForbiddenByPolicy = 'style-attributes' | 'inlined-pictures' | 'changed-styles';

export interface WithoutScript {
  /** Addresses of the images that were shown, sorted. */
  urls: string[];
}

/**
 * A placement's slot over the width of the viewport, and the `sizes` for it: what is fitted is the width at which the picture is drawn,
 * which `object-fit` may make another than the slot's.
 */
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
  /** The only width at which the picture is drawn, CSS px, if it has one. */
  constant: number | null;
  /** The placement of another page of the same skeleton that was swept instead of this one. */
  like?: string;
}

/** Pages of one skeleton, of which only some were swept. */
export interface SweepTemplate {
  pages: number;
  /** Paths of the pages that were swept for all of them. */
  swept: string[];
  /** Paths of those that were swept to check the others. */
  checked: string[];
  /** Whether those are laid out as was expected; if not, all pages of the skeleton were swept. */
  agrees: boolean;
}

/** Pages of one template on a large site: enough are visited that faults show, and the others may be read from their files. */
export interface ReadTemplate {
  /** Path of one of them. */
  example: string;
  pages: number;
  /** How many were read on all screens. */
  read: number;
  /** How many were read on some screens and visited on the others; left out where there are none. */
  readInPart?: number;
  /** How many of those that were visited the others are read from, … */
  learnt: number;
  /** … and how many were visited to hold what would have been read of them against what is there: on all screens, … */
  checked: number;
  /** … and on one screen each; left out for none. */
  checkedOnOne?: number;
  /** Addresses that were compared, on all screens, … */
  compared: number;
  /** … and those of them that were as they had been read. */
  agreed: number;
  /** Why pages that might have been read were visited all the same, those with the most pages first. */
  alsoVisited: {
    why: string;
    pages: number;
    /** Names of the screens on which they were; left out for all. */
    screens?: string[];
  }[];
  /** Why all its pages were visited; null where some were read. */
  visitedWhole: string | null;
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
  /** Of it what is needed: the same with every fix made, as far as it was judged. */
  expectedAfter: number;
  /** Of it what no element of the page shows, so that it was not judged. */
  notJudged: number;
  /** What the page asked for by itself once it was quiet. */
  byItself: number;
  /** All resources of the page scrolled to its end. */
  allBytes: number;
}

export interface Totals {
  screens: ScreenTotals[];
  average: ScreenTotals;
}

export interface NotJudged {
  url: string;
  pages: string[];
  /** Bytes of an average visit. */
  expected: number;
}

export interface TrifleCount {
  findings: number;
  bytes: number;
}

/** A finding that the user did not want to be told of; one that is over is told all the same. */
export interface LeftOut {
  check: string;
  placement: string;
  /** Empty where none was given. */
  reason: string;
  /** The last day on which it holds; null for always. */
  until: string | null;
  expired: boolean;
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
  /** How often the browser died and was started anew. */
  browserRestarts: number;
  /** How often another process of the browser took the place of one that had shown many pages. */
  browserRenewals?: number;
  /** By what was done with pages (`visit`, `sweep`, `without script`): how often it was done, and how often what was seen before still held. */
  looks?: Record<string, { made: number; remembered: number }>;
}
