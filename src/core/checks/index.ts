import type { Check } from './check.js';
import { doesNotLoad } from './does-not-load.js';
import { descriptorDiffersFromFile } from './descriptor-differs-from-file.js';
import { ladderGap } from './ladder-gap.js';
import { ladderTooShort } from './ladder-too-short.js';
import { sizesMissing } from './sizes-missing.js';
import { sizesOverstates } from './sizes-overstates.js';
import { sizesUnderstates } from './sizes-understates.js';
import { sourceOrder } from './source-order.js';
import { srcsetDoesNotParse } from './srcset-does-not-parse.js';
import { eagerBelowFold } from './eager-below-fold.js';
import { lazyInFirstView } from './lazy-in-first-view.js';
import { morePixelsThanNeeded } from './more-pixels-than-needed.js';
import { noDimensions } from './no-dimensions.js';

/** Every check, in the order in which equal findings are listed. */
export const checks: readonly Check[] = [
  doesNotLoad,
  morePixelsThanNeeded,
  sizesOverstates,
  sizesMissing,
  ladderGap,
  sourceOrder,
  srcsetDoesNotParse,
  descriptorDiffersFromFile,
  sizesUnderstates,
  ladderTooShort,
  eagerBelowFold,
  lazyInFirstView,
  noDimensions,
];

export type { Check, Draft, Evidence, Remedy } from './check.js';
export { encodeKey, type EncodeTable, type Facts } from './facts.js';
export { judge, type Judgement } from './judge.js';
export { defaultTrifles, type TrifleLimits } from './trifles.js';
