import { Command } from 'commander';
import { mixed, object, string } from 'yup';
import { checkOptions } from './audit-options.js';
import { UsageError } from './errors.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import { coloursOf, type Io } from './io.js';
import { outputFields } from './outputs.js';
import { readSavedRun, writeTo } from './saved-run.js';

const { mostCharacters } = outputFields;
const schema = object({ json: mixed<string | true>(), html: string(), markdown: string(), mostCharacters });

export function compareCommand(io: Io, finish: (code: ExitCode) => void): Command {
  return new Command('compare')
    .description(
      'Say what got better, worse, appeared and went between two saved runs; exit code 1 where anything appeared or got worse.',
    )
    .argument('<before.json>', 'the earlier run')
    .argument('<after.json>', 'the later run')
    .option('--json [file]', 'write the comparison as JSON to the file, or to standard output')
    .option('--html <file>', 'write it as one HTML page that needs nothing else')
    .option('--markdown <file>', 'write it as Markdown, short enough for a review comment')
    .option(
      '--most-characters <number>',
      'with --markdown: the longest that the text may be (60000 if left out)',
    )
    .action(async (earlier: string, later: string, options: unknown) => {
      const flags = checkOptions(schema, options, 'compare');
      const [before, after] = [await readSavedRun(earlier), await readSavedRun(later)];
      const { compareRuns } = await import('../core/comparing/compare-runs.js');
      const { isWorse } = await import('../core/comparing/judge-comparison.js');
      const comparison = compareRuns(before, after);
      const { comparisonAs } = await import('./comparison-outputs.js');
      const printed = [
        ...(flags.json === true ? ['JSON'] : []),
        ...(flags.html === '-' ? ['HTML page'] : []),
        ...(flags.markdown === '-' ? ['Markdown'] : []),
      ];
      if (printed.length > 1)
        throw new UsageError(`Only one can go to standard output, not the ${printed.join(' and the ')}.`);
      const { columns } = io.out;
      const texts = comparisonAs(after.site.name, comparison, flags.mostCharacters);
      if (printed.length === 0)
        io.out.write(texts.terminal({ columns, colours: coloursOf(io.out, io.environment) }));
      for (const [what, target, text] of [
        ['comparison', flags.json === true ? '-' : flags.json, texts.json],
        ['HTML page', flags.html, texts.html],
        ['Markdown file', flags.markdown, texts.markdown],
      ] as const) {
        if (target === undefined) continue;
        if (target === '-') io.out.write(text());
        else await writeTo(target, text(), what);
      }
      finish(isWorse(comparison) ? exitCodes.overLimit : exitCodes.done);
    });
}
