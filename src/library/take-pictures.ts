import type { ReportPictures, Run } from '../core/run/index.js';
import type { Site } from '../site/index.js';
import { takeReportPictures } from '../survey/index.js';
import { auditOptions, type AuditSettings } from './audit-settings.js';
import { begin, type Task } from './task.js';

export interface PictureSettings extends AuditSettings {
  /** `small` shows the pages and fixes with most to save, `full` all of them. */
  size?: 'small' | 'full';
}

/**
 * Takes the pictures that a report as HTML shows: views of pages, and details of fixes.
 * @param site the one that the run is of
 * @throws {BrowserError} when no browser can be started
 */
export function takePictures(
  site: Site,
  run: Readonly<Run>,
  settings: PictureSettings = {},
): Task<ReportPictures> {
  const { signal, size = 'small' } = settings;
  return begin(signal, (progress) =>
    takeReportPictures(site, run, { ...auditOptions(settings), size }, progress),
  );
}
