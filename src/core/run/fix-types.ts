import type { SourcePosition } from './placement-types.js';

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
  /** The encoder's setting; null for lossless ones and where it does not matter. */
  quality: number | null;
  /** 0 when these bytes were measured; else how far the estimate may be off, as a share. */
  error: number;
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
