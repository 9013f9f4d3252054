import type { Proof } from '../core/mending/proof.js';
import type { ExceptionRule } from '../core/judging/exceptions.js';
import type { ReportPictures, Run } from '../core/run/index.js';
import type { Mended } from '../core/mending/mended.js';
import { checkTarget, mend, tryMend } from '../mending/index.js';
import { mendingReport, proofAsJson } from '../report/index.js';
import { overlaySite } from '../site/index.js';
import { proveCopy, type MendedCopy } from '../library/prove-copy.js';
import { audit, takeReportPictures, type AuditOptions } from '../survey/index.js';
import { toAuditOptions } from './audit-options.js';
import { UsageError } from './errors.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import { coloursOf, type Io } from './io.js';
import type { MendFlags } from './mend-command.js';
import { handOutOrders, ordersOf, wantsPictures } from './outputs.js';
import { openTarget } from './open-target.js';
import { ProgressBar } from './progress-bar.js';
import { readSavedRun, writeTo } from './saved-run.js';

/** Mends a copy of a site, audits the copy and hands out the proof. */
export async function mendFolder(
  targets: readonly string[],
  flags: MendFlags,
  io: Io,
  exceptions: readonly ExceptionRule[] = [],
): Promise<ExitCode> {
  const { to } = flags;
  ordersOf(flags, flags.json === true ? ['proof'] : []);
  if (!flags.try && to === undefined)
    throw new UsageError(
      'Give the folder for the copy with --to <copy>, or --try to see what would be done.',
    );
  if (to !== undefined && !flags.try) await checkTarget(targets[0] ?? '', to);
  const saved = flags.from === undefined ? undefined : await readSavedRun(flags.from);
  const progress = new ProgressBar(io);
  try {
    const site = await openTarget(targets, flags, { progress, interrupted: io.interrupted });
    let mended: Mended;
    let run: Run;
    let proof: Proof | undefined;
    let pictures: ReportPictures | undefined;
    try {
      run = saved ?? (await audit(site, optionsFor(flags, io, exceptions), progress)).run;
      if (io.interrupted?.aborted) return exitCodes.interrupted;
      if (run.site.basePath !== site.basePath)
        throw new UsageError(
          `The run "${flags.from ?? ''}" is of a site below ${run.site.basePath}, this one lies below ${site.basePath}. Give --base-path ${run.site.basePath}.`,
        );
      const { thorough, keepCredits } = flags;
      const order = {
        site,
        run,
        choice: choiceOf(flags),
        thorough,
        keepCredits,
        interrupted: io.interrupted,
      };
      mended = flags.try || to === undefined ? await tryMend(order) : await mend(order, to, progress);
      if (flags.patch !== undefined) await writeTo(flags.patch, mended.patch, 'patch');
      if (to !== undefined && !flags.try)
        proof = await auditCopy(
          to,
          { site, run, mended },
          flags,
          optionsFor(flags, io, exceptions),
          progress,
        );
      if (wantsPictures(flags) && !io.interrupted?.aborted) {
        const size = flags.pictures === 'full' ? 'full' : 'small';
        pictures = await takeReportPictures(site, run, { ...optionsFor(flags, io), size }, progress);
      }
      if (io.interrupted?.aborted) {
        io.err.write(`The copy is made and lies in "${to ?? ''}"; it is not proved.\n`);
        return exitCodes.interrupted;
      }
    } finally {
      await site.close();
    }
    progress.end();
    await handOut({ run, mended, proof, pictures }, flags, io);
    return proof && !proof.kept ? exitCodes.overLimit : exitCodes.done;
  } catch (cause) {
    // What was begun has been taken away.
    if (io.interrupted?.aborted) return exitCodes.interrupted;
    throw cause;
  } finally {
    progress.end();
  }
}

/** Every width that a fix names is encoded: what is only estimated cannot be kept to the byte. */
const optionsFor = (flags: MendFlags, io: Io, exceptions: readonly ExceptionRule[] = []) =>
  toAuditOptions({ ...flags, encode: 'all' }, io, exceptions);

function choiceOf({ fix, cause, first }: MendFlags) {
  return {
    ...(fix === undefined ? {} : { ids: fix }),
    ...(cause === undefined ? {} : { causes: cause }),
    ...(first === undefined ? {} : { first }),
  };
}

async function auditCopy(
  to: string,
  mended: Pick<MendedCopy, 'site' | 'run' | 'mended'>,
  flags: MendFlags,
  options: AuditOptions,
  progress: ProgressBar,
): Promise<Proof> {
  const { site } = mended;
  const copy = site.kind === 'live' ? overlaySite(site, to) : await openTarget([to], flags);
  try {
    return await proveCopy({ ...mended, copy, lighterIsKept: flags.thorough }, options, progress);
  } finally {
    await copy.close();
  }
}

interface Outcome {
  run: Run;
  mended: Mended;
  proof: Proof | undefined;
  pictures: ReportPictures | undefined;
}

async function handOut({ run, mended, proof, pictures }: Outcome, flags: MendFlags, io: Io): Promise<void> {
  const orders = ordersOf(flags, flags.json === true ? ['proof'] : []);
  if (flags.json === true) io.out.write(proofAsJson(run, mended, proof));
  else if (flags.json !== undefined) await writeTo(flags.json, proofAsJson(run, mended, proof), 'proof');
  const { columns } = io.out;
  if (flags.json !== true && orders.every(({ file }) => file !== undefined))
    io.out.write(mendingReport(run, mended, proof, { columns, colours: coloursOf(io.out, io.environment) }));
  await handOutOrders(orders, { run, pictures, proved: proof && { mended, proof } }, io);
}
