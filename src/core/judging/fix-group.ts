import type { Placement } from '../run/types.js';

/** What one fix edits, or what is to be done by hand of one kind in one template. */
export interface FixGroup {
  id: string;
  placements: readonly Placement[];
  /** Positions in the list of what was kept. */
  findings: readonly number[];
  byHand: boolean;
}
