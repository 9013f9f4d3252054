import type { Check } from './check.js';
import { animationAsGif } from './animation-as-gif.js';
import { carriedMetadata } from './carried-metadata.js';
import { graphicStoredLossy } from './graphic-stored-lossy.js';
import { heavierEncoding } from './heavier-encoding.js';
import { olderFormat } from './older-format.js';
import { photoStoredLossless } from './photo-stored-lossless.js';
import { svgCarriesBallast } from './svg-carries-ballast.js';
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
import { samePictureTwice } from './same-picture-twice.js';
import { preloadMissesPick } from './preload-misses-pick.js';
import { fetchedNeverShown } from './fetched-never-shown.js';
import { manyTinyFiles } from './many-tiny-files.js';
import { bulkyInlineData } from './bulky-inline-data.js';
import { lazyWithoutRoom } from './lazy-without-room.js';
import { shownOnlyByScript } from './shown-only-by-script.js';
import { mainPictureLate } from './main-picture-late.js';
import { dimensionsOfAnotherRatio } from './dimensions-of-another-ratio.js';
import { artDirectedWithoutDimensions } from './art-directed-without-dimensions.js';
import { blankWhileWaiting } from './blank-while-waiting.js';
import { upscaled } from './upscaled.js';
import { stretched } from './stretched.js';
import { widerThanScreen } from './wider-than-screen.js';
import { thinOnNarrowScreens } from './thin-on-narrow-screens.js';
import { noTextAlternative } from './no-text-alternative.js';

/** Every check, in the order in which equal findings are listed. */
export const checks: readonly Check[] = [
  doesNotLoad,
  fetchedNeverShown,
  samePictureTwice,
  preloadMissesPick,
  morePixelsThanNeeded,
  sizesOverstates,
  sizesMissing,
  ladderGap,
  heavierEncoding,
  photoStoredLossless,
  graphicStoredLossy,
  svgCarriesBallast,
  sourceOrder,
  olderFormat,
  animationAsGif,
  carriedMetadata,
  srcsetDoesNotParse,
  descriptorDiffersFromFile,
  sizesUnderstates,
  ladderTooShort,
  eagerBelowFold,
  lazyInFirstView,
  lazyWithoutRoom,
  mainPictureLate,
  shownOnlyByScript,
  noDimensions,
  dimensionsOfAnotherRatio,
  artDirectedWithoutDimensions,
  blankWhileWaiting,
  upscaled,
  stretched,
  widerThanScreen,
  thinOnNarrowScreens,
  noTextAlternative,
  manyTinyFiles,
  bulkyInlineData,
];

export type { Check, Draft, Evidence, Remedy } from './check.js';
export type { Facts, Wishes } from './facts.js';
export { judge, type JudgedFinding, type Judgement } from './judge.js';
export { defaultTrifles, type TrifleLimits } from './trifles.js';
