import { Command } from 'commander';
import { array, object, string } from 'yup';
import type { ReportPictures, Run } from '../core/run/index.js';
import { auditFields, checkOptions } from './audit-options.js';
import { collect } from './collect.js';
import { UsageError } from './errors.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import type { Io } from './io.js';
import { addOutputOptions, handOutOrders, ordersOf, outputFields, wantsPictures } from './outputs.js';
import { ProgressBar } from './progress-bar.js';

const { limit, by, browser, sandbox, otherHosts } = auditFields;
const schema = object({
  limit,
  by,
  browser,
  sandbox,
  otherHosts,
  page: array().of(string().required()),
  check: array().of(string().required()),
  site: string(),
  fallback: string(),
  ...outputFields,
});

export function reportCommand(io: Io, finish: (code: ExitCode) => void): Command {
  const command = new Command('report')
    .description(
      'Show a saved run again, or write it for readers and for other programs; a browser is started only for pictures.',
    )
    .argument('<run.json>', 'a run that yukkuri audit saved with --json')
    .option('--limit <fixes>', 'show at most so many fixes of each list, as yukkuri audit does')
    .option('--by <what>', 'what the list is made of: fix (if left out), cause, page or picture')
    .option(
      '--page <pattern>',
      'only fixes that touch these pages, such as /huts/** ; may be given several times',
      collect,
    )
    .option('--check <id>', 'only fixes with a finding of this check; may be given several times', collect);
  return addOutputOptions(command)
    .option(
      '--site <target>',
      'with --html: the folder or address that was audited, to take pictures of its pages from',
    )
    .option('--fallback <file>', 'with --site: as for yukkuri audit')
    .option('--browser <path>', 'with --site: use this Chromium, Chrome or Edge')
    .option('--no-sandbox', 'with --site: switch off the browser’s own sandbox, where it cannot work')
    .option('--other-hosts', 'with --site: let pages ask other hosts')
    .action(async (file: string, options: unknown) => {
      const flags = checkOptions(schema, options, 'report');
      const orders = ordersOf(flags);
      if (flags.site !== undefined && flags.html === undefined)
        throw new UsageError('--site is for the pictures of --html <file>: give both.');
      const { readFiltered } = await import('./report-filter.js');
      const run = await readFiltered(file, flags);
      if (orders.length === 0) {
        const { printReport } = await import('./print-report.js');
        printReport(run, flags, io, flags.page !== undefined || flags.check !== undefined);
      }
      const { site, fallback } = flags;
      const pictures =
        site !== undefined && wantsPictures(flags)
          ? await takePictures(run, site, { ...flags, fallback }, io)
          : undefined;
      await handOutOrders(orders, { run, pictures }, io);
      finish(exitCodes.done);
    });
}

interface PictureFlags {
  fallback: string | undefined;
  browser?: string | undefined;
  sandbox: boolean;
  otherHosts: boolean;
  pictures: string;
}

async function takePictures(
  run: Run,
  target: string,
  { fallback, browser, sandbox, otherHosts, pictures }: PictureFlags,
  io: Io,
): Promise<ReportPictures> {
  const { openTarget } = await import('./open-target.js');
  const { targetSchema } = await import('./target-options.js');
  const { takeReportPictures } = await import('../survey/index.js');
  // Of an address only the pages of the run are asked for.
  const pages = run.site.kind === 'live' ? { page: run.pages.map(({ path }) => path) } : {};
  const site = await openTarget([target], {
    ...targetSchema.getDefault(),
    ...pages,
    basePath: run.site.basePath,
    fallback,
    otherHosts,
  });
  const progress = new ProgressBar(io);
  try {
    const options = {
      browser: {
        ...(browser === undefined ? {} : { path: browser }),
        ...(sandbox ? {} : { sandbox: false }),
      },
      pageLimitMs: 30_000,
      atOnce: 4,
      allowOtherHosts: otherHosts,
      ...(io.interrupted ? { interrupted: io.interrupted } : {}),
      size: pictures === 'full' ? 'full' : 'small',
    } as const;
    return await takeReportPictures(site, run, options, progress);
  } finally {
    progress.end();
    await site.close();
  }
}
