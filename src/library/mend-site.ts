import type { Mended } from '../core/mending/mended.js';
import type { Proof } from '../core/mending/proof.js';
import type { Run } from '../core/run/index.js';
import { checkTarget, mend } from '../mending/index.js';
import { openFolder, type FolderOptions } from '../site/index.js';
import { auditOptions, type AuditSettings } from './audit-settings.js';
import { proveCopy } from './prove-copy.js';
import { begin, type Task } from './task.js';

export interface MendSettings extends AuditSettings {
  /** The folder for the copy: empty or not there yet, and outside the site. */
  to: string;
  /** Ids of the fixes to make; all that can be made if left out. */
  fixes?: readonly string[];
  /** How the site lies on its host, as for `openSite`. */
  site?: FolderOptions;
}

/**
 * Makes the fixes of a run in a copy of a folder, audits the copy and proves what was saved. The folder itself is only read. For promises to
 * the byte the run is to be made with `encode: 'all'`.
 * @throws {MendError} when the copy cannot be made
 */
export function mendSite(
  folder: string,
  run: Readonly<Run>,
  settings: MendSettings,
): Task<{ mended: Mended; proof: Proof }> {
  const { to, fixes, signal } = settings;
  return begin(signal, async (progress) => {
    await checkTarget(folder, to);
    const options = auditOptions({ ...settings, encode: 'all' });
    const site = await openFolder(folder, settings.site);
    try {
      const choice = fixes ? { ids: [...fixes] } : {};
      const mended = await mend({ site, run, choice, interrupted: signal }, to, progress);
      const copy = await openFolder(to, settings.site);
      try {
        const order = { site, copy, run, mended, lighterIsKept: false };
        return { mended, proof: await proveCopy(order, options, progress) };
      } finally {
        await copy.close();
      }
    } finally {
      await site.close();
    }
  });
}
