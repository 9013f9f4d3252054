export { busiestRegion } from './busiest.js';
export { chromaOf, colourSimilarity, type ChromaMemory, type ChromaPicture } from './chroma.js';
export { flatSigns, losslessContent, lossyContent, type FlatSigns, type PictureContent } from './content.js';
export { drawingSigns, type DrawingSigns } from './drawing.js';
export { jpegQuality } from './jpeg-quality.js';
export { lookSide, looksLike } from './look.js';
export { hasAlphaChannel, lumaOf, peakSignalToNoise, type Pixels } from './luma.js';
export {
  equalLooks,
  nextQuality,
  startAfter,
  type EqualLooks,
  type LossyFormat,
  type QualityTry,
  type SearchStart,
} from './quality-search.js';
export { sampleOf } from './sample.js';
export {
  structuralSimilarity,
  toDecibels,
  worstPercentile,
  type Likeness,
  type LumaPicture,
} from './ssim.js';
export { webpQuality } from './webp-quality.js';
