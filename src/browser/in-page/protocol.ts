/** What the script inside a measured page hands to the program. Plain values only; lengths in CSS px. */

export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

export type Attributes = [name: string, value: string][];

export interface ChainLink {
  tag: string;
  classes: string[];
}

export interface ObservedPlacement {
  kind: 'img' | 'picture' | 'input' | 'svg-image' | 'video-poster';
  selector: string;
  tag: string;
  attributes: Attributes;
  /** Attributes of the `source` elements before the `img` in its `picture`. */
  sources: Attributes[];
  /** Ancestors from `body` down to the parent. */
  chain: ChainLink[];
  /** Outer markup as it stands in the page now, cut to a sane length. */
  markup: string;
  box: Box | null;
  fit: string;
  currentSrc: string;
  complete: boolean;
  naturalWidth: number;
  naturalHeight: number;
}

export interface Measurement {
  placements: ObservedPlacement[];
  documentHeight: number;
  /** What relative addresses are resolved against. */
  baseUrl: string;
  viewportWidth: number;
  viewportHeight: number;
  /** Selector of the element of the largest paint so far, if it is a measured one. */
  largestPaint: string | null;
  /** Whether scrolling can start a download: scripts, or anything that loads lazily. */
  scrollMatters: boolean;
}

/** The functions that the script puts into its own world of the page. */
export interface InPage {
  measure(): Measurement;
  settle(frames: number): Promise<void>;
  /** Waits until images of the first view are decoded, painted and reported as paints. */
  paintsReported(): Promise<void>;
  scrollTo(y: number): void;
  /** Slots of all placements by selector: widths only, null where there is no box. */
  slotWidths(): Record<string, number | null>;
  /** Selectors of images whose box takes its width from the file that is picked. */
  widthsFromFile(): string[];
  /** Our selectors of the placements that a CSS selector matches, or that stand inside what it matches. */
  matching(selector: string): string[];
  /** Viewport widths that the page's style sheets and sources name, CSS px. */
  breakpoints(): number[];
  scrollRange(): { position: number; end: number; step: number };
}
