export { audit, type AuditOptions, type Progress } from './audit.js';
