export { canEncode, encodeLadder, type EncodeOrder } from './encode.js';
export { readImageFacts } from './facts.js';
export { encoderVersions } from './versions.js';
