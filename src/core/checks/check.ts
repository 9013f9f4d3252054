import type { CutKind } from '../bytes/ledger.js';
import type { FileToMake, Placement } from '../run/types.js';
import type { TagEdit } from '../fixes/tag.js';
import type { Facts } from './facts.js';
import type { FileState } from './file-state.js';

/** What a check saw on one screen. `saves` and `reachAfter` are its claim on the download. */
export interface Evidence {
  saves: number;
  /** Bytes from which it takes, where that is not the whole download. */
  of?: number;
  reachAfter?: number;
  /** The download that it claims, where that is not the placement's own. */
  downloadUrl?: string;
  /** The file that the placement takes afterwards; later findings start from it. Not saved. */
  leaves?: FileState;
  /** How far the bytes may be off, as a share; 0 for measured ones. */
  error?: number;
  /** Id of the placement that claims the bytes of a download which both show. */
  sharesWith?: string;
  [fact: string]: number | string | boolean | null | undefined | FileState;
}

/** A finding before the ledger and the policy have seen it. */
export interface Draft<E extends Evidence = Evidence> {
  placement: Placement;
  screens: Record<string, E>;
}

/** How a finding is mended in the markup. */
export interface Remedy {
  edits: TagEdit[];
  files: FileToMake[];
  notes: string[];
}

/** The parts of a check's documentation, each one or two sentences. */
export interface About {
  title: string;
  means: string;
  evidence: string;
  fix: string;
  silent: string;
}

export interface Check<E extends Evidence = Evidence> {
  id: string;
  about: About;
  /** Its place in the ledger; null for a finding that costs no bytes by itself. */
  cut: CutKind | null;
  /** How sure the number is where all of it was measured. */
  sureness: string;
  words(draft: Draft<E>, facts: Facts): string;
  find(facts: Facts): Draft<E>[];
  remedy(draft: Draft<E>, facts: Facts): Remedy;
}

/** Keeps each check's own evidence type inside its file. */
export function defineCheck<E extends Evidence>(check: Check<E>): Check {
  return check as unknown as Check;
}
