import { Command } from 'commander';
import { checkOptions } from './audit-options.js';
import { UsageError } from './errors.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import { coloursOf, type Io } from './io.js';
import { ProgressBar } from './progress-bar.js';
import { isSavedRun, pageOfRun, readSavedRun } from './saved-run.js';
import { preparationOf } from './target-options.js';
import { addLookOptions, browserOf, lookSchema, type LookFlags } from './site-options.js';

export function sizesCommand(io: Io, finish: (code: ExitCode) => void): Command {
  const command = new Command('sizes')
    .description(
      'Show each image’s slot against the width of the viewport, what sizes claims, and the sizes to write.',
    )
    .argument(
      '<target>',
      'the folder that your host serves, an address, or a saved run (.json), which answers at once',
    )
    .argument('[page]', 'one page of it; all pages if left out')
    .action(async (target: string, page: string | undefined, options: unknown) => {
      const flags = checkOptions(lookSchema, options, 'sizes');
      const { sizesAsJson, sizesReport } = await import('../report/index.js');
      const { groups, problems } = isSavedRun(target)
        ? await fromRun(target, page, flags)
        : await fromSite(target, page, flags, io);
      const { columns } = io.out;
      io.out.write(
        flags.json === undefined
          ? sizesReport(groups, problems, { columns, colours: coloursOf(io.out, io.environment) })
          : sizesAsJson(groups, problems),
      );
      finish(groups.length === 0 && problems.length > 0 ? exitCodes.notFinished : exitCodes.done);
    });
  return addLookOptions(command);
}

async function fromSite(target: string, page: string | undefined, flags: LookFlags, io: Io) {
  const { openTarget } = await import('./open-target.js');
  const { surveySizes } = await import('../survey/index.js');
  const site = await openTarget([target], { ...flags, page: page === undefined ? undefined : [page] });
  const prepare = preparationOf(flags);
  const progress = new ProgressBar(io);
  return surveySizes(
    site,
    {
      browser: browserOf(flags),
      pageLimitMs: flags.pageLimit * 1000,
      ...(prepare ? { prepare } : {}),
      ...(flags.match === undefined ? {} : { match: flags.match }),
    },
    progress,
  ).finally(async () => {
    progress.end();
    await site.close();
  });
}

/** What the audit swept: of a page without a sweep of its own nothing is known. */
async function fromRun(file: string, page: string | undefined, flags: LookFlags) {
  if (flags.match !== undefined)
    throw new UsageError('--match needs the site: give its folder instead of a saved run.');
  const { groupSizes } = await import('../core/judging/sizes-groups.js');
  const run = await readSavedRun(file);
  const own = page === undefined ? undefined : pageOfRun(run, page);
  const sweeps = new Map(run.sweeps.map((each) => [each.placement, each]));
  const swept = run.placements.flatMap((placement) => {
    const sweep = sweeps.get(placement.id);
    const wanted = placement.kind === 'img' || placement.kind === 'picture';
    return sweep && wanted && (own === undefined || placement.page === own)
      ? [[placement, sweep] as const]
      : [];
  });
  return { groups: groupSizes(swept), problems: [] };
}
