export { canEncode } from './encode.js';
export { readImageFacts, unknownFile } from './facts.js';
export { cacheSize, clearCache, MeasuredCache } from './measured-cache.js';
export { Measurer } from './measurer.js';
export type { Measured, MeasureOrder } from './measure.js';
export { encoderVersions } from './versions.js';
