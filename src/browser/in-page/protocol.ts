import type { ElementBox } from '../../core/mending/box-changes.js';
import type { PictureWrap, PlacementKind, SideFrom, StyleLayer } from '../../core/run/placement-types.js';

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

/** Where a document is shown that stands in a frame. */
export interface FramePlace {
  /** Of the frame's element in the document around it. */
  selector: string;
  /** What of its element shows the document, in coordinates of the document around it; null without a box. */
  box: Box | null;
  seen: boolean;
  /** The address of the document in it. */
  url: string;
  /** Its viewport. */
  width: number;
  height: number;
}

/** What scripts of the page do with addresses, as far as their texts tell. */
export interface SourceScripts {
  /** What finds images whose `src` they write. */
  selectors: readonly string[];
  /** Whether any of them writes a `src`. */
  write: boolean;
  /** Whether any of them takes a `src` for another image. */
  copy: boolean;
}

/** An image whose `src` a script writes, or takes for another image. */
export interface WrittenImage {
  node: string;
  /** Nodes of the images that got its address. */
  receivers: string[];
  /** Whether a click on it may show its file in another image. */
  enlarged: boolean;
}

export interface ObservedPlacement {
  kind: PlacementKind;
  /** Names the element within one load of the page, whatever moves or is inserted before it. */
  node: string;
  /** Of what stands in a frame: the frame's document and its viewport. */
  frame?: { url: string; baseUrl: string; width: number; height: number };
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
  /** Whether any part of the box can come into view by scrolling the page. */
  seen: boolean;
  /** Whether styles hide it although it has its place: a hover, a class or a timer may show it at once. */
  concealed: boolean;
  /** What styles draw in the box behind the image. */
  behind: Behind;
  fit: string;
  /** Whether a style keeps the edges of its pixels sharp. */
  pixelated: boolean;
  /** What gives the box its sides. */
  widthFrom: SideFrom;
  heightFrom: SideFrom;
  /** What `max-width` comes to; null for none. */
  limitWidth: number | null;
  /** What `max-height` comes to; null for none. */
  limitHeight: number | null;
  currentSrc: string;
  complete: boolean;
  naturalWidth: number;
  naturalHeight: number;
  /** For images that styles show: every address that the layer names, resolved; … */
  addresses?: string[];
  /** … which layer of which property it is; … */
  style?: StyleLayer;
  /** … and the selectors of the rules that may show it, in the order of the cascade's sheets; `styleAttribute` for its own. */
  rules?: string[];
}

/** Stands for the style attribute among the selectors of rules. */
export const styleAttribute = '@style';

export type Behind = 'nothing' | 'colour' | 'gradient' | 'picture' | 'inlined-picture';

export interface Measurement {
  placements: ObservedPlacement[];
  /** Whether the page has scripts. */
  scripted: boolean;
  documentHeight: number;
  /** Width that can be scrolled to, CSS px. */
  documentWidth: number;
  /** What relative addresses are resolved against. */
  baseUrl: string;
  viewportWidth: number;
  /** Of the window that lazy images are near to or far from: where a page is wider than a touch screen it is higher than what is seen. */
  viewportHeight: number;
  /** What of it a visitor sees at once, CSS px. */
  seenHeight: number;
  /** By which media conditions and lengths count, CSS px. */
  layoutViewport: { width: number; height: number };
  /** Selector of the element of the largest paint so far, if it is a measured one. */
  largestPaint: string | null;
}

/** How what a visitor scrolls by stands, CSS px of the page. */
export interface ScrollRange {
  position: number;
  end: number;
  /** What is seen at once. */
  step: number;
  /** How much of the window lies below what is seen at once: it is moved through before anything scrolls. */
  unseen: number;
  /** Whether the document scrolls, and not something in it. */
  isPage: boolean;
}

/** One thing that moved, in viewport coordinates. */
export interface MovedThing {
  name: string;
  before: Box;
  after: Box;
  /** What ancestors and viewport leave visible of it; null for nothing. */
  seenBefore: Box | null;
  seenAfter: Box | null;
}

export interface SeenShifts {
  moved: MovedThing[];
  /** Sum of the layout-shift values that the browser reported. */
  reported: number;
  /** What is in view, CSS px. */
  viewport: { width: number; height: number };
}

export interface PendingImage {
  selector: string;
  /** Whether both sides of its box are given without the file. */
  fixed: boolean;
  /** Ratio of width to height that styles or attributes give its box; null for none. */
  ratio: number | null;
  /** Whether that ratio gives way to the file's own once that is known. */
  ownRatio: boolean;
}

/** A slot while the window is resized. */
export interface SweptSize {
  width: number;
  height: number;
  fit: string;
  /** Width of the picture over its height; 0 where that is not known. */
  ratio: number;
}

/** Nodes of images to which no style and no attribute gives a width. */
export interface WidthsFromFile {
  /** Those whose box takes its width from the file that is picked. */
  fromFile: string[];
  /** Those that are as wide as `sizes` says, up to what a style allows, or that list no widths: with the fix they are. */
  byClaim: string[];
}

/** The functions that the script puts into its own world of the page. */
export interface InPage {
  measure(): Measurement;
  /** Null for the page itself, and for frames of other origins. */
  framePlace(): FramePlace | null;
  settle(frames: number): Promise<void>;
  /** Waits until what moves by a transition or a finite animation has come to rest, but no longer than so many ms. */
  motionEnds(mostMs: number): Promise<void>;
  /** Holds what moves images without end at a share of its way, from 0 to 1; whether there is any. */
  holdEndless(share: number): boolean;
  /** Waits until images of the first view are decoded, painted and reported as paints. */
  paintsReported(): Promise<void>;
  /** Lets nothing of the page be painted from here on. */
  stopPainting(): void;
  /** Waits until something matches a selector, but no longer than so many ms; whether it does. */
  appears(selector: string, mostMs: number): Promise<boolean>;
  /** Clicks on what matches a selector first, where it is there. */
  clickOn(selector: string): void;
  scrollTo(y: number): void;
  /** Slots of all placements by node, null where there is no box. */
  slotSizes(): Promise<Record<string, SweptSize | null>>;
  /** Holds images to the width that they claim, so that this is what is measured. */
  widthsFromFile(): WidthsFromFile;
  /** Of images in hidden slides: the node of the image that stands alike in a slide that is shown. */
  shownAlike(): Record<string, string>;
  /** Nodes of the placements that a CSS selector matches, or that stand inside what it matches. */
  matching(selector: string): string[];
  /** Texts of the scripts that stand in the page itself, those in attributes for events among them. */
  scriptTexts(): string[];
  /** Images whose `src` scripts write or copy. */
  writtenImages(scripts: SourceScripts): WrittenImage[];
  /** Viewport widths that the page's style sheets and sources name, CSS px. */
  breakpoints(): number[];
  /** Remembers where everything is. */
  markPlaces(): void;
  shiftsSinceMark(): SeenShifts;
  pendingImages(): PendingImage[];
  /** Waits until images that show an address have arrived or failed, but no longer than so many ms; whether they did. */
  imagesArrive(selectors: readonly string[], url: string, limitMs: number): Promise<boolean>;
  /** Whether scrolling can start a download or change heights: scripts, or anything that is loaded or laid out late. */
  scrollMatters(): boolean;
  /** Whether it can once more, in another width, on a page that was scrolled through: an image with a box waits, or what is laid out late. */
  scrollMattersStill(): boolean;
  scrollRange(): ScrollRange;
  /** Scrolls what scrolls inside the page and holds images, one viewport of its own on; whether anything moved. */
  scrollInner(): boolean;
  /** Gives scripts time for images that came into view; whether there were any. */
  scriptsComplete(): Promise<boolean>;
  /** Whether images lie so far below that nothing in view moves when they come. */
  areFarBelow(selectors: readonly string[]): boolean;
  elementBoxes(): ElementBox[];
  /** Nodes of the images whose boxes depend on the natural size of their files although styles seem to set them. */
  followingFile(): string[];
  /** By node, CSS px: images whose style allows them a share of a block that is only as wide as what it holds. */
  widthLimits(): Record<string, number>;
  /**
   * By node, for images that stand in no `picture`.
   * @param selectors in the scripts that the page asked for
   */
  pictureWraps(selectors: readonly string[]): Record<string, PictureWrap>;
}
