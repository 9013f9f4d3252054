export { awaitedImages } from './awaited-images.js';
export { Browser, type BrowserOptions } from './browser.js';
export { BrowserError, VisitTimeout } from './errors.js';
export { browserVariable } from './find.js';
export { styleAttribute, type Measurement, type ObservedPlacement } from './in-page/protocol.js';
export type { LoggedRequest } from './network-log.js';
export type { ImageRelease, PickOf } from './releases.js';
export { sameDocument } from './departures.js';
export { layoutsAt, type LayoutOrder, type LayoutRecord } from './layouts.js';
export { measureLazyDistance, usualLazyDistance } from './lazy-distance.js';
export { timersRunAheadMs, visit, type VisitOrder, type VisitRecord } from './visit.js';
export { visitWithoutScript } from './scriptless-visit.js';
export { sweep, sweepHeights, type SweepOrder, type SweepRecord } from './sweep.js';
export type {
  AnswerTo,
  AskedRequest,
  GivenAnswer,
  NoAnswer,
  PageAccess,
  Preparation,
} from './page-access.js';
export type { GateWatch } from './outer-gate.js';
export { measuringVersion } from './measuring-version.js';
