import { Command } from 'commander';
import { boolean, object } from 'yup';
import { bytesInWords, count } from '../core/wording/words.js';
import { checkOptions } from './audit-options.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import type { Io } from './io.js';
import { cacheFolder } from './price-options.js';

export function cacheCommand(io: Io, finish: (code: ExitCode) => void): Command {
  return new Command('cache')
    .description(
      'Say how much room the measurements of pictures take that are kept between runs, or remove them.',
    )
    .option('--clear', 'remove them')
    .action(async (options: unknown) => {
      const { clear } = checkOptions(object({ clear: boolean().default(false) }), options, 'cache');
      const { cacheSize, clearCache } = await import('../images/index.js');
      const folder = cacheFolder();
      const { entries, bytes } = await cacheSize(folder);
      const size = `${count(entries, 'measurement')}, ${bytesInWords(bytes)}, in ${folder}`;
      if (clear) await clearCache(folder);
      io.out.write(clear ? `Removed ${size}\n` : `${size}\n`);
      finish(exitCodes.done);
    });
}
