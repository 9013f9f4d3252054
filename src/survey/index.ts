export { audit, auditWithFacts, type AuditOptions, type AuditOutcome, type Progress } from './audit.js';
export { surveySizes, type SizesGroup, type SizesOptions, type SizesSurvey } from './sizes-survey.js';
