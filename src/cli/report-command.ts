import { Command } from 'commander';
import { array, object, string } from 'yup';
import { auditFields, checkOptions, collect } from './audit-options.js';
import { UsageError } from './errors.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import type { Io } from './io.js';
import { readSavedRun, writeTo } from './saved-run.js';

const { limit, by } = auditFields;
const schema = object({ limit, by, csv: array().of(string().required()).default([]) });

/** What is written of a run, and where: to standard output without a file. */
interface Order {
  what: string;
  file: string | undefined;
  write: () => string;
}

export function reportCommand(io: Io, finish: (code: ExitCode) => void): Command {
  return new Command('report')
    .description('Show a saved run again, or write it for other programs; no browser is started.')
    .argument('<run.json>', 'a run that yukkuri audit saved with --json')
    .option('--limit <fixes>', 'show at most so many fixes of each list, as yukkuri audit does')
    .option('--by <what>', 'sum the bytes up by fix (if left out) or by cause')
    .option(
      '--csv <table>',
      'write a table as CSV: fixes, placements, downloads or pages; to a file with fixes=FILE; may be given several times',
      collect,
    )
    .action(async (file: string, options: unknown) => {
      const flags = checkOptions(schema, options, 'report');
      const { csvTables, runAsCsv } = await import('../report/index.js');
      const { printReport } = await import('./print-report.js');
      const tables = flags.csv.map((given) => {
        const [, name = '', target] = /^([^=]*)(?:=(.*))?$/s.exec(given) ?? [];
        const table = csvTables.find((each) => each === name);
        if (!table || target === '')
          throw new UsageError(
            `--csv must be one of ${csvTables.join(', ')}, or one with a file such as fixes=fixes.csv; got "${given}".`,
          );
        return { table, target };
      });
      const run = await readSavedRun(file);
      const orders: Order[] = tables.map(({ table, target }) => ({
        what: `table of ${table}`,
        file: target === '-' ? undefined : target,
        write: () => runAsCsv(run, table),
      }));
      if (orders.length === 0) printReport(run, flags, io);
      await handOut(orders, io);
      finish(exitCodes.done);
    });
}

/** @throws {UsageError} where several would run into one another */
async function handOut(orders: readonly Order[], { out }: Io): Promise<void> {
  const printed = orders.filter(({ file }) => file === undefined);
  if (printed.length > 1)
    throw new UsageError(
      `Only one can go to standard output, not ${printed.map(({ what }) => `the ${what}`).join(' and ')}: give the others files.`,
    );
  for (const { what, file, write } of orders) {
    if (file === undefined) out.write(write());
    else await writeTo(file, write(), what);
  }
}
