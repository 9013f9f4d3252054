import { Command } from 'commander';
import { boolean, object, string } from 'yup';
import { defaultTrifles } from '../core/bytes/trifles.js';
import { checkOptions } from './audit-options.js';
import { UsageError } from './errors.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import { coloursOf, type Io } from './io.js';
import { picturesOfFix } from './last-audit.js';
import { parseFormats, priceFields } from './price-options.js';
import { ProgressBar } from './progress-bar.js';
import { writePicture } from './write-picture.js';

const schema = object({
  widths: string(),
  formats: priceFields.formats,
  looks: priceFields.looks,
  picture: string(),
  at: string(),
  fix: string(),
  json: boolean().default(false),
});

export function weighCommand(io: Io, finish: (code: ExitCode) => void): Command {
  return new Command('weigh')
    .description(
      'Encode image files at several widths and in several formats at equal looks, and say which to serve.',
    )
    .argument('[image...]', 'image files')
    .option('--fix <id>', 'the pictures of a fix of the last audit, at the widths that it asks for')
    .option('--widths <list>', 'widths in px, such as 480,960,1440 (a usual ladder if left out)')
    .option('--formats <list>', 'newer formats to try (avif,webp if left out; none for none)')
    .option(
      '--looks <quality>',
      'JPEG quality that stands for equal looks: higher is stricter (73 if left out)',
    )
    .option(
      '--picture <file>',
      'also lay the same part of the original and of each variant side by side, as a PNG; of one image',
    )
    .option(
      '--at <x,y>',
      'with --picture: the middle of the part, as shares of width and height, such as 0.5,0.3 (where most happens if left out)',
    )
    .option('--json', 'print the result as JSON')
    .action(async (images: string[], options: unknown) => {
      const flags = checkOptions(schema, options, 'weigh');
      const { picture, fix } = flags;
      if ((fix === undefined) === (images.length === 0))
        throw new UsageError('Name image files to weigh, or a fix of the last audit with --fix <id>.');
      if (picture !== undefined && images.length > 1)
        throw new UsageError(`--picture shows one image; got ${images.length}. Weigh them one by one.`);
      const middle = flags.at === undefined ? undefined : parseMiddle(flags.at);
      const pictures = fix === undefined ? images.map((file) => ({ file })) : await picturesOfFix(fix);
      const widths = flags.widths === undefined ? undefined : parseWidths(flags.widths);
      const { compareVariants, weighFiles } = await import('../survey/index.js');
      const { weighAsJson, weighReport } = await import('../report/index.js');
      const progress = new ProgressBar(io);
      const entries = await weighFiles(
        pictures.map((each) => ({ ...each, ...(widths ? { widths } : {}) })),
        {
          looks: flags.looks,
          wishes: {
            formats: parseFormats(flags.formats),
            trifles: defaultTrifles,
            keepCredits: false,
            crops: false,
            sharpness: Number.POSITIVE_INFINITY,
          },
        },
        progress,
      ).finally(() => progress.end());
      const { columns } = io.out;
      io.out.write(
        flags.json
          ? weighAsJson(entries)
          : weighReport(entries, { columns, colours: coloursOf(io.out, io.environment) }),
      );
      const [first] = entries;
      if (picture !== undefined && first && 'content' in first) {
        const compared = await compareVariants(first, middle);
        if (compared) await writePicture(picture, compared.png);
        const said = compared
          ? `${picture}: ${compared.labels.join(' | ')}`
          : 'No picture was written: nothing of this file was encoded that can be compared.';
        (flags.json ? io.err : io.out).write(`\n${said}\n`);
      }
      finish(entries.every((entry) => 'why' in entry) ? exitCodes.notFinished : exitCodes.done);
    });
}

function parseWidths(text: string): number[] {
  const widths = text.split(',').map(Number);
  if (widths.some((width) => !Number.isInteger(width) || width < 16 || width > 16383))
    throw new UsageError(`--widths must be whole px from 16 to 16383, such as 480,960,1440; got "${text}".`);
  return widths;
}

function parseMiddle(text: string): { x: number; y: number } {
  const [x = NaN, y = NaN, ...more] = text.split(',').map(Number);
  if (!(x >= 0 && x <= 1 && y >= 0 && y <= 1) || more.length > 0)
    throw new UsageError(`--at must be two shares from 0 to 1, such as 0.5,0.3; got "${text}".`);
  return { x, y };
}
