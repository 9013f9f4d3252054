import type { ReportPictures, Run } from '../core/run/index.js';
import { runInPieces } from '../report/index.js';
import { audit, takeReportPictures } from '../survey/index.js';
import { toAuditOptions, type AuditFlags } from './audit-options.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import type { Io } from './io.js';
import { rememberAudit } from './last-audit.js';
import { handOutOrders, ordersOf, wantsPictures } from './outputs.js';
import { openTarget } from './open-target.js';
import { ProgressBar } from './progress-bar.js';
import { checkPolicy, type Policy } from './policy.js';
import { readSavedRun, writeTo } from './saved-run.js';

/** Audits a site and hands out what was asked for: the report, or the run as JSON. */
export async function auditFolder(
  targets: readonly string[],
  flags: AuditFlags,
  io: Io,
  { exceptions, limits }: Policy = { exceptions: [], limits: [] },
): Promise<ExitCode> {
  const options = toAuditOptions(flags, io, exceptions);
  const baseline = flags.baseline === undefined ? undefined : await readSavedRun(flags.baseline);
  const progress = new ProgressBar(io);
  const site = await openTarget(targets, flags, { progress, interrupted: io.interrupted }).finally(() =>
    progress.end(),
  );
  let run: Run;
  let pictures: ReportPictures | undefined;
  try {
    ({ run } = await audit(site, options, progress));
    if (flags.cache && site.kind === 'folder' && !io.interrupted?.aborted) await rememberAudit(site, run);
    if (wantsPictures(flags) && !io.interrupted?.aborted)
      pictures = await takeReportPictures(
        site,
        run,
        { ...options, size: flags.pictures === 'full' ? 'full' : 'small' },
        progress,
      );
  } finally {
    progress.end();
    await site.close();
  }
  await handOut(run, pictures, flags, io);
  if (io.interrupted?.aborted) return exitCodes.interrupted;
  if (sawNothing(run)) return exitCodes.notFinished;
  return checkPolicy(run, baseline, limits, flags, io) ? exitCodes.done : exitCodes.overLimit;
}

async function handOut(
  run: Run,
  pictures: ReportPictures | undefined,
  flags: AuditFlags,
  io: Io,
): Promise<void> {
  const orders = ordersOf(flags, flags.json === true ? ['run'] : []);
  if (flags.json === true) for (const piece of runInPieces(run)) io.out.write(piece);
  else if (flags.json !== undefined) await writeTo(flags.json, runInPieces(run), 'run');
  const printed = flags.json === true || orders.some(({ file }) => file === undefined);
  // What measures text in columns takes long to be read.
  if (!printed) (await import('./print-report.js')).printReport(run, flags, io);
  await handOutOrders(orders, { run, pictures }, io);
}

/** Not one page could be seen: there is nothing to rely on. */
function sawNothing(run: Run): boolean {
  return run.pages.every(({ visits }) => visits.every(({ documentHeight }) => documentHeight === 0));
}
