import type { ReachCurve } from '../layout/reach.js';
import type { ImageFile, PageRecord, Placement, Screen } from '../run/types.js';
import type { CandidateProposal } from '../fixes/proposal.js';

/** Everything the checks may know: what was observed and measured, as plain values. */
export interface Facts {
  screens: readonly Screen[];
  pages: readonly PageRecord[];
  placements: readonly Placement[];
  /** By URL. */
  files: ReadonlyMap<string, ImageFile>;
  /** By placement id. */
  proposals: ReadonlyMap<string, CandidateProposal>;
  encodes: EncodeTable;
  reach: ReachCurve;
}

/** Bytes of real encodes, by file and width. */
export type EncodeTable = ReadonlyMap<string, number>;

/** Key of the encode table; width in device px. */
export const encodeKey = (url: string, width: number) => `${width} ${url}`;
