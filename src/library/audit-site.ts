import type { Run } from '../core/run/index.js';
import type { Site } from '../site/index.js';
import { audit } from '../survey/index.js';
import { auditOptions, type AuditSettings } from './audit-settings.js';
import { begin, type Task } from './task.js';

/**
 * Audits a site: visits every page on every screen, encodes pictures, and ranks what to fix.
 * @throws {BrowserError} when no browser can be started
 */
export function auditSite(site: Site, settings: AuditSettings = {}): Task<Run> {
  return begin(
    settings.signal,
    async (progress) => (await audit(site, auditOptions(settings), progress)).run,
  );
}
