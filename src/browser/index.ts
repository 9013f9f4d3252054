export { Browser, type BrowserOptions } from './browser.js';
export { BrowserError, VisitTimeout } from './errors.js';
export { browserVariable } from './find.js';
export { styleAttribute, type Measurement, type ObservedPlacement } from './in-page/protocol.js';
export type { LoggedRequest } from './network-log.js';
export type { ImageRelease } from './releases.js';
export { visit, type VisitOrder, type VisitRecord } from './visit.js';
export { visitWithoutScript } from './scriptless-visit.js';
export { sweep, sweepHeights, type SweepOrder, type SweepRecord } from './sweep.js';
