export { makePlaceholders, placeholdersAsPicture, type PlaceholderEntry } from './placeholders.js';
export { audit, type AuditOutcome } from './audit.js';
export { compareVariants, weighFiles, type UnweighedFile, type WeighedFile } from './weigh.js';
export { compareLayouts } from './layout-survey.js';
export type { AuditOptions, Progress } from './context.js';
export type { EarlyFix } from './early-ranking.js';
export { surveySizes, type SizesOptions, type SizesSurvey } from './sizes-survey.js';
export { takeReportPictures, type ReportPicturesOptions } from './report-pictures.js';
