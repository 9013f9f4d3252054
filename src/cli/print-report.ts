import type { Run } from '../core/run/index.js';
import { terminalReport } from '../report/index.js';
import { limitsOf, type AuditFlags } from './audit-options.js';
import { coloursOf, type Io } from './io.js';

/** Prints the report of a run, as wide and as coloured as the output is. */
export function printReport(run: Run, flags: Pick<AuditFlags, 'limit' | 'by'>, io: Io): void {
  io.out.write(
    terminalReport(run, {
      columns: io.out.columns,
      colours: coloursOf(io.out, io.environment),
      limits: limitsOf(flags),
      by: flags.by === 'cause' ? 'cause' : 'fix',
    }),
  );
}
