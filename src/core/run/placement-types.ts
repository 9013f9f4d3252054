import type { Quote } from '../markup/quoted-value.js';
import type { Began } from './visit-types.js';

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
  /** Of what stands in the attribute `srcdoc` of a frame: the quotes of its value, as which all texts are written there. */
  quote?: Quote;
}

export interface PickPair {
  predicted: string | null;
  observed: string | null;
}

/** Heights, CSS px. */
export interface WindowHeights {
  /** By which the browser tells what is near: as if the whole width of the page was shown small. */
  height: number;
  /** What of it a visitor sees at once, before zooming. */
  seen: number;
}

export interface PlacementDownload {
  url: string;
  bytes: number;
  began: Began;
  scrollDepth: number;
}

/** How far an image got: drawn, failed, not yet asked for, or nothing to ask for. */
export type ImageState = 'drawn' | 'broken' | 'not-loaded' | 'no-source';

/**
 * What a visitor sees in a slot before its image comes: nothing that differs from the page around it, a colour, a gradient, a small
 * copy that is written into the page, or something else.
 */
export type WaitingLook = 'blank' | 'colour' | 'gradient' | 'inlined-picture' | 'other';

/**
 * What gives an element's box one of its sides: a length of a style, an attribute, a style that says `auto` (an attribute would change
 * nothing), or nothing at all (an attribute would).
 */
export type SideFrom = 'style' | 'attribute' | 'auto' | 'nothing';

/**
 * How a `picture` can be put around an image so that nothing looks different: written as usual; without white space inside, where it would
 * part what stands in one line; without a box of its own, where the image is laid out by what it stands in; or not at all, where a style
 * reaches the image only as a child.
 */
export type PictureWrap = 'spaced' | 'close' | 'boxless' | 'none';

/** What one screen showed of a placement beyond its slot. */
export interface Shown {
  state: ImageState;
  /** Slot before its image arrived; null when it had no box. */
  whileWaiting: Slot | null;
  /** Slot when the first view had settled, before any scroll. */
  beforeScroll: Slot | null;
  /** Computed `object-fit`, or the size of a background. */
  fit: string;
  widthFrom: SideFrom;
  heightFrom: SideFrom;
  /** The width that a style lets it have at most; null where none does. */
  limitWidth: number | null;
  /** The height that a style lets it have at most; left out where none does. */
  limitHeight?: number;
  /** A style keeps the edges of its pixels sharp (`image-rendering`). */
  pixelated?: true;
  /** Whether the box depends on the natural size of the file although a style seems to set it, as in the columns of a table. */
  followsFile?: true;
  /**
   * A script of the page writes its `src`, as far as the text of the script tells, or copies or moves it without what it stands in: beside a list or in
   * a `picture` that would show nothing, or not come along.
   */
  addressed?: true;
  /** How wide a script that takes the address from it shows its file in another element, CSS px; left out where none does. */
  widthElsewhere?: number;
  /** Its file was in view for a time in another element, which shows another file now. */
  shownByOther?: true;
  /** Size at which the whole picture is drawn, which `object-fit` may make larger or smaller than the slot. */
  drawnWidth: number;
  drawnHeight: number;
  /** Pixel size of the delivered file, 0 when unknown. */
  fileWidth: number;
  fileHeight: number;
  /** Whether any part of the slot can come into view by scrolling the page, at first or in the end. */
  seen: boolean;
  /** Whether a style hides it in its place: a hover, a class or a timer may show it at once. */
  concealed: boolean;
  /** Whether it came into view by itself once the page was let be, as slides do. */
  seenLater: boolean;
  /** Tried in the page; null where that could not be. */
  pictureWrap: PictureWrap | null;
  /** What styles draw in its place behind it. */
  behind: 'nothing' | 'colour' | 'gradient' | 'picture' | 'inlined-picture';
  /** What stands in the slot while the image is awaited; null where the slot was not looked at. */
  waiting: WaitingLook | null;
  /** True when this was the largest paint of the first view. */
  largestPaint: boolean;
  lazy: boolean;
}

/** An image among those that a declaration lists. */
export interface StyleLayer {
  /** As computed: `background-image`, never the shorthand. */
  property: string;
  /** Counted from 0. */
  layer: number;
}

export interface Placement {
  id: string;
  page: string;
  kind: PlacementKind;
  selector: string;
  /** Null for elements that a script made. */
  source: SourcePosition | null;
  template: string;
  /** The element as its file has it; of an image in a style the rule, or the declarations of a style attribute. */
  markup: string;
  /** What relative addresses in the markup are resolved against. */
  base: string;
  /** Of an image in a style: which one it is. */
  style?: StyleLayer;
  /** The attribute from which a script takes the address that it writes into a style. */
  attribute?: string;
  alt: string | null;
  /** Of what stands in a frame: the viewport of the frame's document on each screen, CSS px. */
  frames?: Record<string, { width: number; height: number }>;
  /** Of a page that is laid out for another width than the screen's own: its viewport on each such screen, CSS px. */
  viewports?: Record<string, { width: number; height: number }>;
  /** Of a page that is wider than a touch screen: its window on each such screen. */
  windows?: Record<string, WindowHeights>;
  slots: Record<string, Slot | null>;
  picks: Record<string, PickPair>;
  downloads: Record<string, PlacementDownload>;
  shown: Record<string, Shown>;
  /** Every file that this placement could take, in source order. */
  candidates: string[];
}
