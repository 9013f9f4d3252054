export { keyOf, KeptValues, keptKinds, type KeptKind } from './kept-values.js';
export { cacheRoom, clearCache, pruneCache, type CacheRoom } from './room.js';
