import { Command } from 'commander';
import { checkOptions } from './audit-options.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import { coloursOf, type Io } from './io.js';
import { ProgressBar } from './progress-bar.js';
import { addLookOptions, browserOf, lookSchema } from './site-options.js';

export function sizesCommand(io: Io, finish: (code: ExitCode) => void): Command {
  const command = new Command('sizes')
    .description(
      'Show each image’s slot against the width of the viewport, what sizes claims, and the sizes to write.',
    )
    .argument('<folder>', 'the folder that your host serves')
    .argument('[page]', 'one page of it; all pages if left out')
    .action(async (folder: string, page: string | undefined, options: unknown) => {
      const flags = checkOptions(lookSchema, options, 'sizes');
      const { openFolder } = await import('../site/index.js');
      const { surveySizes } = await import('../survey/index.js');
      const { sizesAsJson, sizesReport } = await import('../report/index.js');
      const site = await openFolder(folder, {
        basePath: flags.basePath,
        ...(page === undefined ? {} : { pages: [page] }),
      });
      const progress = new ProgressBar(io);
      const { groups, problems } = await surveySizes(
        site,
        {
          browser: browserOf(flags),
          pageLimitMs: flags.pageLimit * 1000,
          ...(flags.match === undefined ? {} : { match: flags.match }),
        },
        progress,
      ).finally(async () => {
        progress.end();
        await site.close();
      });
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
