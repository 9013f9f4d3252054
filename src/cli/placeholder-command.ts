import { Command } from 'commander';
import { object, string } from 'yup';
import type { PlaceholderForm } from '../report/index.js';
import { checkOptions } from './audit-options.js';
import { UsageError } from './errors.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import type { Io } from './io.js';
import { writePicture } from './write-picture.js';

const forms = ['css', 'json', 'attribute'] as const;

const schema = object({
  form: string().oneOf(forms, '--form must be css, json or attribute').default('css'),
  picture: string(),
});

export function placeholderCommand(io: Io, finish: (code: ExitCode) => void): Command {
  return new Command('placeholder')
    .description(
      'Make what can stand in for images while they are awaited: the main colour, a gradient and a tiny inlined copy.',
    )
    .argument('<image...>', 'image files')
    .option('--form <form>', 'css (if left out), json or attribute')
    .option('--picture <file>', 'also lay the picture and each of them side by side, as a PNG; of one image')
    .action(async (names: string[], options: unknown) => {
      const { form, picture } = checkOptions(schema, options, 'placeholder');
      if (picture !== undefined && names.length > 1)
        throw new UsageError(`--picture shows one image; got ${names.length}. Make them one by one.`);
      const { makePlaceholders, placeholdersAsPicture } = await import('../survey/index.js');
      const { writePlaceholders } = await import('../report/index.js');
      const entries = await makePlaceholders(names);
      io.out.write(writePlaceholders(entries, form as PlaceholderForm));
      for (const entry of entries)
        if ('why' in entry) io.err.write(`${entry.name} has no placeholder: ${entry.why}\n`);
      const [first] = entries;
      if (picture !== undefined && first && 'offer' in first)
        await writePicture(picture, await placeholdersAsPicture(first.name, first.offer));
      finish(entries.every((entry) => 'why' in entry) ? exitCodes.notFinished : exitCodes.done);
    });
}
