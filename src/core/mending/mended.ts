import type { Fix } from '../run/types.js';
import type { LeftOut } from './choose.js';
import type { UnseenCopies } from './unseen-copies.js';

/** A file that was made, or why it was not; what it weighs against what was promised. */
export interface WrittenFile {
  name: string;
  promised: number;
  bytes: number;
  /** Likeness that it was to reach and reaches, dB; null where nothing is compared. */
  looks: { wanted: number; reached: number } | null;
  problem: string | null;
}

/** What was done to a copy, or would be. */
export interface Mended {
  /** The fixes that were made, in the order of the run. */
  fixes: Fix[];
  left: LeftOut[];
  /** The site's files that were edited. */
  edited: string[];
  files: WrittenFile[];
  /** Texts that were edited and stand in pages which were not audited as well. */
  elsewhere: UnseenCopies[];
  /** All edits as one unified diff, the lines of each file in its own encoding. */
  patch: Uint8Array;
}
