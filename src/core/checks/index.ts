import { lateConnection } from './headers/late-connection.js';
import { redirectedImage } from './headers/redirected-image.js';
import { shortCacheLife } from './headers/short-cache-life.js';
import { typeDiffersFromFile } from './headers/type-differs-from-file.js';
import { varyMissing } from './headers/vary-missing.js';
import { vectorSentUnpacked } from './headers/vector-sent-unpacked.js';
import type { Check } from '../judging/check.js';
import { animationAsGif } from './bytes/animation-as-gif.js';
import { carriedMetadata } from './bytes/carried-metadata.js';
import { graphicStoredLossy } from './bytes/graphic-stored-lossy.js';
import { heavierEncoding } from './bytes/heavier-encoding.js';
import { olderFormat } from './bytes/older-format.js';
import { photoStoredLossless } from './bytes/photo-stored-lossless.js';
import { svgCarriesBallast } from './bytes/svg-carries-ballast.js';
import { rasterInVector } from './bytes/raster-in-vector.js';
import { doesNotLoad } from './looks/does-not-load.js';
import { fileCutShort } from './looks/file-cut-short.js';
import { misnamedFile } from './looks/misnamed-file.js';
import { descriptorDiffersFromFile } from './choice/descriptor-differs-from-file.js';
import { ladderGap } from './choice/ladder-gap.js';
import { ladderTooShort } from './choice/ladder-too-short.js';
import { sizesMissing } from './choice/sizes-missing.js';
import { sizesOverstates } from './choice/sizes-overstates.js';
import { sizesOffBetweenScreens } from './choice/sizes-off-between-screens.js';
import { sizesUnderstates } from './choice/sizes-understates.js';
import { sourceOrder } from './choice/source-order.js';
import { srcsetDoesNotParse } from './choice/srcset-does-not-parse.js';
import { eagerBelowFold } from './loading/eager-below-fold.js';
import { lazyInFirstView } from './loading/lazy-in-first-view.js';
import { morePixelsThanNeeded } from './bytes/more-pixels-than-needed.js';
import { noDimensions } from './room/no-dimensions.js';
import { samePictureTwice } from './bytes/same-picture-twice.js';
import { preloadMissesPick } from './loading/preload-misses-pick.js';
import { fetchedNeverShown } from './bytes/fetched-never-shown.js';
import { manyTinyFiles } from './bytes/many-tiny-files.js';
import { bulkyInlineData } from './bytes/bulky-inline-data.js';
import { lazyWithoutRoom } from './loading/lazy-without-room.js';
import { shownOnlyByScript } from './loading/shown-only-by-script.js';
import { mainPictureLate } from './loading/main-picture-late.js';
import { dimensionsOfAnotherRatio } from './room/dimensions-of-another-ratio.js';
import { artDirectedWithoutDimensions } from './room/art-directed-without-dimensions.js';
import { blankWhileWaiting } from './waiting/blank-while-waiting.js';
import { upscaled } from './looks/upscaled.js';
import { stretched } from './looks/stretched.js';
import { widerThanScreen } from './looks/wider-than-screen.js';
import { thinOnNarrowScreens } from './looks/thin-on-narrow-screens.js';
import { noTextAlternative } from './looks/no-text-alternative.js';

/** Every check, in the order in which equal findings are listed. */
export const checks: readonly Check[] = [
  doesNotLoad,
  fileCutShort,
  misnamedFile,
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
  rasterInVector,
  sourceOrder,
  olderFormat,
  animationAsGif,
  carriedMetadata,
  srcsetDoesNotParse,
  descriptorDiffersFromFile,
  sizesUnderstates,
  sizesOffBetweenScreens,
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
  vectorSentUnpacked,
  redirectedImage,
  lateConnection,
  shortCacheLife,
  varyMissing,
  typeDiffersFromFile,
];
