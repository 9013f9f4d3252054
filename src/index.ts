/**
 * Yukkuri as a library: what the program does, without a console. Computation alone, for other places than Node.js too, is in
 * `yukkuri/core`.
 */
export { openAddresses, type LiveOptions } from './site/index.js';
export { openFolder as openSite, SiteError, type FolderOptions, type Page, type Site } from './site/index.js';
export type { AuditSettings } from './library/audit-settings.js';
export { auditSite as audit } from './library/audit-site.js';
export { mendSite as mend, type MendSettings } from './library/mend-site.js';
export type { ProgressEvent, Task } from './library/task.js';
export { takePictures, type PictureSettings } from './library/take-pictures.js';
export { BrowserError } from './browser/errors.js';
export { MendError } from './mending/errors.js';
export { compareRuns as compare, type RunComparison } from './core/comparing/compare-runs.js';
export type { Noise } from './core/comparing/noise.js';
export { isWorse } from './core/comparing/judge-comparison.js';
export { breachesOf, newBreaches, type Breach, type Limit } from './core/limits/limits.js';
export type { ExceptionRule } from './core/judging/exceptions.js';
export { runAsCsv as renderCsv, csvTables, type CsvTable } from './report/csv.js';
export { htmlReport as renderHtml, type HtmlReportOptions } from './report/html/html-report.js';
export { runAsJson as renderJson } from './report/json.js';
export { runAsJunit as renderJunit } from './report/junit.js';
export { runAsMarkdown as renderMarkdown } from './report/markdown.js';
export { runAsSarif as renderSarif } from './report/sarif.js';
export { terminalReport as renderTerminal, type TerminalOptions } from './report/terminal/report.js';
export * from './core/run/index.js';
