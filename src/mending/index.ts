export { checkTarget } from './copy.js';
export { MendError, type MendErrorCode } from './errors.js';
export { mend, tryMend, type MendOrder, type Mended } from './mend.js';
export type { WrittenFile } from './write-files.js';
