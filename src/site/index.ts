export { SiteError } from './errors.js';
export { openFolder, type FolderOptions } from './folder.js';
export { overlaySite } from './live/overlay.js';
export { withPages } from './with-pages.js';
export type { ServerAnswer } from './server-answer.js';
export type { Site, SiteNetwork } from './site.js';
export { isAddress } from './live/is-address.js';
export { openAddresses } from './open-addresses.js';
export type { LiveOptions } from './live/open-live.js';
export { findConnects } from './connects.js';
export { findContentPolicies } from './content-policies.js';
export { findSealedSheets, type SealedSheet } from './sealed-sheets.js';
export { matchElements, type LiveElement } from './match-elements.js';
export {
  findPageStyleImages,
  findStyleImages,
  isCustom,
  isForScripts,
  plainSelector,
  type StyleImage,
} from './style-images.js';
export { parsePage, type ParsedPage } from './walk-html.js';
export { readText } from './read-text.js';
export { readEncodedText, writeEncodedText, type EncodedText } from './encoded-text.js';
export type { Page } from './paths.js';
export type { HashedFile } from './file-hashes.js';
export { findSourceElements, findSrcdocElements, type SourceElement } from './source-elements.js';
