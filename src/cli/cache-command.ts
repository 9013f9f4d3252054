import { Command } from 'commander';
import { boolean, number, object } from 'yup';
import { bytesInWords, count, listed } from '../core/wording/words.js';
import { checkOptions } from './audit-options.js';
import { UsageError } from './errors.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import type { Io } from './io.js';
import { cacheFolder } from './price-options.js';

const schema = object({
  clear: boolean().default(false),
  prune: number().min(0).max(1_000_000).label('--prune'),
});

export function cacheCommand(io: Io, finish: (code: ExitCode) => void): Command {
  return new Command('cache')
    .description(
      'Say how much room is taken by what is kept between runs, measurements of pictures and what was seen of pages, or make room.',
    )
    .option('--clear', 'remove all of it')
    .option(
      '--prune <megabytes>',
      'remove what has not been used for longest until no more than this is left',
    )
    .action(async (options: unknown) => {
      const { clear, prune } = checkOptions(schema, options, 'cache');
      if (clear && prune !== undefined) throw new UsageError('Give either --clear or --prune, not both.');
      const { cacheRoom, clearCache, pruneCache } = await import('../cache/index.js');
      const folder = cacheFolder();
      const before = await cacheRoom(folder);
      const inWords = ({ entries, bytes }: typeof before) =>
        `${listed([count(entries.measured, 'measurement of pictures', 'measurements of pictures'), count(entries.visit, 'look at a page', 'looks at pages')])}, ${bytesInWords(bytes)}`;
      if (clear) {
        await clearCache(folder);
        io.out.write(`Removed ${inWords(before)}, in ${folder}\n`);
      } else if (prune !== undefined) {
        await pruneCache(folder, prune * 1_000_000);
        io.out.write(`Was ${inWords(before)}; is ${inWords(await cacheRoom(folder))}, in ${folder}\n`);
      } else io.out.write(`${inWords(before)}, in ${folder}\n`);
      finish(exitCodes.done);
    });
}
