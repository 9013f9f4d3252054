import type { ReachCurve } from '../layout/reach.js';
import type { ImageFile, PageRecord, Placement, Screen, SlotSweep } from '../run/types.js';
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
  /** By placement id. */
  sweeps: ReadonlyMap<string, SlotSweep>;
  encodes: EncodeTable;
  reach: ReachCurve;
}

/** Bytes of real encodes, by file and width. */
export type EncodeTable = ReadonlyMap<string, number>;

/** Key of the encode table; width in device px. */
export const encodeKey = (url: string, width: number) => `${width} ${url}`;

/** Bytes of the file that a screen would get from a proposal; undefined when that was not measured. Width in device px. */
export function bytesAtWidth(
  { master }: CandidateProposal,
  width: number,
  encodes: EncodeTable,
): number | undefined {
  return width >= master.width ? master.bytes : encodes.get(encodeKey(master.url, width));
}
