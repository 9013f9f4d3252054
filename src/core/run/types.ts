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
  encodes: MeasuredEncode[];
  picks: PickAgreement;
  findings: Finding[];
  fixes: Fix[];
  totals: Totals;
  trifles: TrifleCount;
  refused: RefusedRequest[];
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

export type PlacementKind =
  | 'img'
  | 'picture'
  | 'input'
  | 'svg-image'
  | 'video-poster'
  | 'object'
  | 'css-image'
  | 'icon-link'
  | 'preload';

export interface Slot {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface SourcePosition {
  file: string;
  line: number;
  column: number;
}

export interface PickPair {
  predicted: string | null;
  observed: string | null;
}

export interface PlacementDownload {
  url: string;
  bytes: number;
  began: Began;
  scrollDepth: number;
}

/** How far an image got: drawn, failed, not yet asked for, or nothing to ask for. */
export type ImageState = 'drawn' | 'broken' | 'not-loaded' | 'no-source';

/** What one screen showed of a placement beyond its slot. */
export interface Shown {
  state: ImageState;
  /** Slot before its image arrived; null when it had no box. */
  whileWaiting: Slot | null;
  /** Slot when the first view had settled, before any scroll. */
  beforeScroll: Slot | null;
  /** Computed `object-fit`. */
  fit: string;
  /** Size at which the whole picture is drawn, which `object-fit` may make larger or smaller than the slot. */
  drawnWidth: number;
  drawnHeight: number;
  /** Pixel size of the delivered file, 0 when unknown. */
  fileWidth: number;
  fileHeight: number;
  /** True when this was the largest paint of the first view. */
  largestPaint: boolean;
  lazy: boolean;
}

export interface Placement {
  id: string;
  page: string;
  kind: PlacementKind;
  selector: string;
  /** Null for elements that a script made. */
  source: SourcePosition | null;
  template: string;
  markup: string;
  alt: string | null;
  slots: Record<string, Slot | null>;
  picks: Record<string, PickPair>;
  downloads: Record<string, PlacementDownload>;
  shown: Record<string, Shown>;
  /** Every file that this placement could take, in source order. */
  candidates: string[];
}

export interface ImageFile {
  url: string;
  /** `jpeg`, `png`, `gif`, `webp`, `avif`, `svg` or `unknown`. */
  format: string;
  /** Pixel size with the orientation applied; 0 when the file cannot be read. */
  width: number;
  height: number;
  bytes: number;
  animated: boolean;
  /** SHA-256 of the content, hexadecimal. */
  hash: string;
  /** Why the file could not be read, if so. */
  problem?: string;
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

/** One encode that was really made. */
export interface MeasuredEncode {
  url: string;
  format: string;
  /** Device px. */
  width: number;
  quality: number | null;
  bytes: number;
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

export type ScreenEvidence = { saves: number } & Record<string, number | string | boolean | null>;

export interface Finding {
  check: string;
  placement: string;
  screens: Record<string, ScreenEvidence>;
  says: string;
}

export interface Savings {
  /** Bytes per average visit. */
  expected: number;
  /** Bytes per average visit that does not scroll. */
  firstView: number;
  /** Bytes per average visit that scrolls every page to its end. */
  whole: number;
  /** Expected bytes per average visit on each screen. */
  screens: Record<string, number>;
}

export interface FixPlace {
  placement: string;
  page: string;
  source: SourcePosition | null;
  selector: string;
}

export interface FileToMake {
  name: string;
  from: string;
  /** Device px. */
  width: number;
  format: string;
  bytes: number;
}

export interface Written {
  before: string;
  after: string;
  /** The placement that `before` and `after` show. */
  example: string;
  files: FileToMake[];
  notes: string[];
}

export interface Fix {
  id: string;
  check: string;
  title: string;
  saves: Savings;
  sureness: string;
  /** Indexes into `findings`. */
  findings: number[];
  pages: string[];
  places: FixPlace[];
  write: Written;
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
