import type { Crop, CropFile } from './offer-types.js';
import type { SourcePosition } from './placement-types.js';

/** What one screen showed, in plain values; `saves` is the finding's share of the bytes, negative where it costs some. */
export type ScreenEvidence = { saves: number } & Record<string, number | string | boolean | null>;

export interface Finding {
  check: string;
  placement: string;
  screens: Record<string, ScreenEvidence>;
  says: string;
}

/** Bytes of an average visit; negative where they grow. */
export interface Savings {
  /** By the share of visits that cause each download. */
  expected: number;
  /** Of a visit that does not scroll. */
  firstView: number;
  /** Of a visit that scrolls every page to its end. */
  whole: number;
  /** How far `expected` may be off either way, where files are estimated and not encoded; 0 where all were. */
  unsure: number;
  /** Expected bytes on each screen. */
  screens: Record<string, number>;
}

/** How a file is made: encoded as its original is, encoded to look the same, … */
export type Recipe = 'resized' | 'equal-looks' | 'bare' | 'cleaned' | 'animation' | 'still' | 'cropped';

export interface FileToMake {
  /** Address from the site's root. */
  name: string;
  /** Whether nobody makes it: a host gives it to whom asks for its address. */
  asked?: true;
  /** The file that it is made from. */
  from: string;
  recipe: Recipe;
  /** Device px. */
  width: number;
  format: string;
  bytes: number;
  /** The encoder's setting; null for lossless ones and where it does not matter. */
  quality: number | null;
  /** Whether colours are reduced to a palette first; nobody sees that. */
  palette?: true;
  /** 0 when these bytes were measured; else how far the estimate may be off, as a share. */
  error: number;
  /** The part that is cut out, and the likeness to it that was measured. */
  crop?: Crop & Pick<CropFile, 'decibels'>;
}

/** What one screen takes for a placement before and after a fix; null for nothing. */
export interface TakenFiles {
  before: string | null;
  after: string | null;
  /** Of the file that is taken afterwards, in one transfer. */
  bytes: number;
  /** Share of visits that fetch it then, 0 to 1, and whether it begins in the first view. */
  reach: number;
  inFirstView: boolean;
}

export interface FixPlace {
  placement: string;
  page: string;
  source: SourcePosition | null;
  selector: string;
  /** Which of the fix's edits it gets. */
  edit: number;
  /** The text for this place; empty where something is to be done by hand. */
  after: string;
  takes: Record<string, TakenFiles>;
}

/** One text that is edited, shown at the place that saves most. */
export interface FixEdit {
  kind: 'tag' | 'style' | 'link';
  /** The placement that `before` and `after` show. */
  example: string;
  before: string;
  /** Empty for an element that is to be removed. */
  after: string;
}

/** A step of the chain that a fix's bytes go down, in the order of the ledger. */
export interface FixStep {
  kind: string;
  /** Expected bytes of an average visit. */
  expected: number;
}

export interface Fix {
  id: string;
  /** `edit` for a text to paste; `hand` for what nobody can paste. */
  kind: 'edit' | 'hand';
  /** Checks whose findings it removes, those that save most first. */
  checks: string[];
  title: string;
  /** What it adds to the fixes above it. */
  saves: Savings;
  /** What it saves when it is the only one that is made. */
  alone: Savings;
  steps: FixStep[];
  sureness: string;
  /** Layout shift that an average visit is spared. */
  shift: number;
  /** Indexes into `findings`. */
  findings: number[];
  pages: string[];
  places: FixPlace[];
  edits: FixEdit[];
  files: FileToMake[];
  notes: string[];
}
