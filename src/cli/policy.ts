import { compareRuns } from '../core/comparing/compare-runs.js';
import { isWorse } from '../core/comparing/judge-comparison.js';
import type { ExceptionRule } from '../core/judging/exceptions.js';
import { breachesOf, newBreaches, type Limit } from '../core/limits/limits.js';
import type { Run } from '../core/run/index.js';
import { comparisonReport } from '../report/terminal/comparison-report.js';
import { limitsReport } from '../report/terminal/limits-report.js';
import type { AuditFlags } from './audit-options.js';
import { coloursOf, type Io } from './io.js';
import { ordersOf } from './outputs.js';

/** What a user leaves out and does not allow. */
export interface Policy {
  exceptions: readonly ExceptionRule[];
  limits: readonly Limit[];
}

/**
 * Says which limits a run goes beyond and what is worse than in the baseline.
 * @returns whether all is as the user wants it
 */
export function checkPolicy(
  run: Readonly<Run>,
  baseline: Readonly<Run> | undefined,
  limits: readonly Limit[],
  flags: AuditFlags,
  io: Io,
): boolean {
  // What is read by a program is not mixed with what is read by a person.
  const toOutput = flags.json === true || ordersOf(flags).some(({ file }) => file === undefined);
  const stream = toOutput ? io.err : io.out;
  const style = { columns: stream.columns, colours: coloursOf(stream, io.environment) };
  const all = breachesOf(run, limits);
  const breaches = baseline ? newBreaches(all, breachesOf(baseline, limits), flags.trifleBytes) : all;
  if (breaches.length > 0) stream.write(limitsReport(breaches, style));
  if (!baseline) return breaches.length === 0;
  const comparison = compareRuns(baseline, run, { bytes: flags.trifleBytes });
  const worse = isWorse(comparison);
  stream.write(`\nSince the baseline: ${comparisonReport(comparison, style)}`);
  return breaches.length === 0 && !worse;
}
