import type { Run } from '../core/run/index.js';
import { terminalReport, views } from '../report/index.js';
import { limitsOf, type AuditFlags } from './audit-options.js';
import { coloursOf, type Io } from './io.js';

/** Prints the report of a run, as wide and as coloured as the output is. */
export function printReport(
  run: Run,
  flags: Pick<AuditFlags, 'limit' | 'by'>,
  io: Io,
  filtered = false,
): void {
  io.out.write(
    terminalReport(run, {
      columns: io.out.columns,
      colours: coloursOf(io.out, io.environment),
      limits: limitsOf(flags),
      filtered,
      by: views.find((view) => view === flags.by) ?? 'fix',
    }),
  );
}
