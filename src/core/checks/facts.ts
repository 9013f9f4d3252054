import type { PriceList } from '../bytes/price-list.js';
import type { ReachCurve } from '../layout/reach.js';
import type {
  Crop,
  IconSheet,
  ImageFile,
  PageRecord,
  Placeholder,
  Placement,
  Screen,
  SlotSweep,
} from '../run/types.js';
import type { CandidateProposal } from '../fixes/proposal.js';
import type { StateTable } from './file-state.js';
import type { TrifleLimits } from './trifles.js';

/** Everything the checks may know: what was observed and measured, as plain values, and what the user wants. */
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
  prices: PriceList;
  /** What the findings judged so far leave of the downloads. */
  states: StateTable;
  reach: ReachCurve;
  /** What could stand in for a picture while it is awaited, by its URL. */
  placeholders: ReadonlyMap<string, Placeholder>;
  /** Where most happens in wide pictures, by URL. */
  crops: ReadonlyMap<string, Crop>;
  /** One sheet of a page's tiny files, by page. */
  sheets: ReadonlyMap<string, IconSheet>;
  /** Newer formats that the site may use, and what else the user set. */
  wishes: Wishes;
}

export interface Wishes {
  /** Formats that may be proposed, best first. */
  formats: readonly string[];
  trifles: TrifleLimits;
  /** Whether the names of author and licence stay in the files. */
  keepCredits: boolean;
}
