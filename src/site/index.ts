export { SiteError } from './errors.js';
export { openFolder, type FolderOptions, type Site } from './folder.js';
export { matchElements } from './match-elements.js';
export { findPageStyleImages, findStyleImages, plainSelector, type StyleImage } from './style-images.js';
export { parsePage, type ParsedPage } from './walk-html.js';
export { readText } from './read-text.js';
export type { Page } from './paths.js';
export type { HashedFile } from './file-hashes.js';
export { findSourceElements, type SourceElement } from './source-elements.js';
