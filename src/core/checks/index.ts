import type { Check } from './check.js';
import { doesNotLoad } from './does-not-load.js';
import { eagerBelowFold } from './eager-below-fold.js';
import { lazyInFirstView } from './lazy-in-first-view.js';
import { morePixelsThanNeeded } from './more-pixels-than-needed.js';
import { noDimensions } from './no-dimensions.js';

/** Every check, in the order in which equal findings are listed. */
export const checks: readonly Check[] = [
  doesNotLoad,
  morePixelsThanNeeded,
  eagerBelowFold,
  lazyInFirstView,
  noDimensions,
];

export type { Check, Draft, Evidence, Remedy } from './check.js';
export { encodeKey, type EncodeTable, type Facts } from './facts.js';
export { judge, type Judgement } from './judge.js';
export { defaultTrifles, type TrifleLimits } from './trifles.js';
