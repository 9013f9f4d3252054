export { canEncode } from './encode.js';
export { readImageFacts, unknownFile } from './facts.js';
export { cacheSize, clearCache, MeasuredCache } from './measured-cache.js';
export { Measurer } from './measurer.js';
export { measurePicture, type Measured } from './measure.js';
export { measureOrder, plainFormat, type MeasureOrder } from './measure-order.js';
export { sideBySide, type Tile } from './side-by-side.js';
export { watchEncodes } from './watch-encodes.js';
export { encoderVersions } from './versions.js';
