import { existsSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { Command } from 'commander';
import { causeInWords } from '../core/wording/words.js';
import { firstConfiguration, type Answers } from './configuration/suggest.js';
import { UsageError } from './errors.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import type { Io } from './io.js';

const file = 'yukkuri.config.yaml';

export function initCommand(io: Io, finish: (code: ExitCode) => void): Command {
  return new Command('init')
    .description(`Write a first ${file} from what the site’s folder holds; on a terminal it asks before.`)
    .argument('[folder]', 'the folder that your host serves')
    .option('--yes', 'ask nothing')
    .action(async (folder: string | undefined, { yes = false }: { yes?: boolean }) => {
      if (existsSync(file)) throw new UsageError(`${file} is there already; it was left as it is.`);
      const seen = await lookInto(folder);
      const asks = !yes && io.out.isTerminal && process.stdin.isTTY;
      const answers = asks ? await ask(seen).catch(endOfQuestions) : seen;
      if (!answers) {
        io.err.write('Nothing was written.\n');
        finish(exitCodes.interrupted);
        return;
      }
      try {
        await writeFile(file, firstConfiguration(answers), { flag: 'wx' });
      } catch (cause) {
        throw new UsageError(`${file} cannot be written: ${causeInWords(cause)}.`, { cause });
      }
      io.out.write(
        `${file} is written${folder === undefined ? '' : `, from what "${folder}" holds`}. Audit with: yukkuri audit ${folder ?? '<folder>'}\n`,
      );
      finish(exitCodes.done);
    });
}

/** What a folder says by itself: a single page with scripts answers for all paths; formats that it has are formats that it may have. */
async function lookInto(folder: string | undefined): Promise<Answers> {
  const plain: Answers = {
    basePath: '/',
    formats: ['avif', 'webp'],
    phones: 0.55,
    fallback: undefined,
    firstView: undefined,
  };
  if (folder === undefined) return plain;
  const { openFolder } = await import('../site/index.js');
  const site = await openFolder(folder);
  try {
    const [only, ...others] = site.pages;
    const scripts = site.names.some((name) => /\.m?js$/.test(name));
    const has = (ending: string) => site.names.some((name) => name.toLowerCase().endsWith(`.${ending}`));
    return {
      ...plain,
      // Whoever makes WebP and no AVIF may have a reason.
      formats: has('webp') && !has('avif') ? ['webp', 'avif'] : plain.formats,
      fallback: only && others.length === 0 && scripts ? only.file : undefined,
    };
  } finally {
    await site.close();
  }
}

/** Whoever ends the questions wants nothing written. */
function endOfQuestions(cause: unknown): undefined {
  if (cause instanceof Error && cause.name === 'ExitPromptError') return undefined;
  throw cause;
}

async function ask(seen: Answers): Promise<Answers> {
  const { checkbox, input, number } = await import('@inquirer/prompts');
  const basePath = await input({
    message: 'Below which path does the site lie on its host?',
    default: seen.basePath,
    validate: (text) => (text.startsWith('/') && text.endsWith('/')) || 'It begins and ends in "/".',
  });
  const formats = await checkbox({
    message: 'Which newer formats may the site use?',
    choices: ['avif', 'webp'].map((value) => ({ value, checked: seen.formats.includes(value) })),
  });
  const phones = await number({
    message: 'What share of visits comes from phones, in %?',
    default: 55,
    min: 0,
    max: 100,
  });
  const firstView = await number({
    message: 'How many kB may the images of a first view weigh? (0 for no limit)',
    default: 0,
    min: 0,
  });
  return {
    ...seen,
    basePath,
    formats: seen.formats.filter((each) => formats.includes(each)),
    phones: (phones ?? 55) / 100,
    firstView: firstView ? firstView * 1000 : undefined,
  };
}
