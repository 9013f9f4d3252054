import { causeInWords } from '../core/wording/words.js';
import { writeFile } from 'node:fs/promises';
import type { Run } from '../core/run/index.js';
import { runAsJson } from '../report/index.js';
import { openFolder } from '../site/index.js';
import { audit } from '../survey/index.js';
import { toAuditOptions, type AuditFlags } from './audit-options.js';
import { UsageError } from './errors.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import type { Io } from './io.js';
import { rememberAudit } from './last-audit.js';
import { printReport } from './print-report.js';
import { ProgressBar } from './progress-bar.js';

/** Audits a folder and hands out what was asked for: the report, or the run as JSON. */
export async function auditFolder(folder: string, flags: AuditFlags, io: Io): Promise<ExitCode> {
  const options = toAuditOptions(flags, io);
  const site = await openFolder(folder, {
    basePath: flags.basePath,
    pages: flags.page,
    ...(flags.fallback === undefined ? {} : { fallback: flags.fallback }),
  });
  const progress = new ProgressBar(io);
  let run: Run;
  try {
    ({ run } = await audit(site, options, progress));
    if (flags.cache && !io.interrupted?.aborted) await rememberAudit(folder, site, run);
  } finally {
    progress.end();
    await site.close();
  }
  await handOut(run, flags, io);
  if (io.interrupted?.aborted) return exitCodes.interrupted;
  return sawNothing(run) ? exitCodes.notFinished : exitCodes.done;
}

async function handOut(run: Run, flags: AuditFlags, io: Io): Promise<void> {
  if (flags.json === true) {
    io.out.write(runAsJson(run));
    return;
  }
  if (flags.json !== undefined) await writeRun(flags.json, run);
  printReport(run, flags, io);
}

async function writeRun(file: string, run: Run): Promise<void> {
  try {
    await writeFile(file, runAsJson(run));
  } catch (cause) {
    const why = causeInWords(cause);
    throw new UsageError(`The run cannot be written to "${file}": ${why}. Give --json another file.`, {
      cause,
    });
  }
}

/** Not one page could be seen: there is nothing to rely on. */
function sawNothing(run: Run): boolean {
  return run.pages.every(({ visits }) => visits.every(({ documentHeight }) => documentHeight === 0));
}
