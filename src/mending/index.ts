export { checkTarget } from './copy.js';
export { MendError, type MendErrorCode } from './errors.js';
export { mend, tryMend, type MendOrder } from './mend.js';
