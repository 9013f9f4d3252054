import { constants } from 'node:buffer';
import { createReadStream, statSync } from 'node:fs';
import { readFile, stat, writeFile } from 'node:fs/promises';
import { createInterface } from 'node:readline';
import { readRun, runFromLines, type Run } from '../core/run/index.js';
import { causeInWords } from '../core/wording/words.js';
import { UsageError } from './errors.js';

/** @throws {UsageError} saying what is wrong with the file */
export async function readSavedRun(file: string): Promise<Run> {
  try {
    return readRun(await readSaved(file));
  } catch (cause) {
    throw new UsageError(
      `"${file}" is no run of this version: ${causeInWords(cause)}. Save one with yukkuri audit <folder> --json ${file}.`,
      { cause },
    );
  }
}

/** What is longer than a string may be is read line by line, as it was written. */
async function readSaved(file: string): Promise<unknown> {
  const { size } = await stat(file);
  if (size < constants.MAX_STRING_LENGTH) return JSON.parse(await readFile(file, 'utf8'));
  return runFromLines(
    createInterface({ input: createReadStream(file), crlfDelay: Number.POSITIVE_INFINITY }),
  );
}

/** A folder does not end so, a saved run does. */
export const isSavedRun = (target: string): boolean =>
  target.endsWith('.json') && (statSync(target, { throwIfNoEntry: false })?.isFile() ?? false);

/**
 * The page of a run that a user names by its path or its file.
 * @throws {UsageError} when there is none
 */
export function pageOfRun({ pages }: Run, named: string): string {
  const wanted = named.replace(/^\.?\/*/, '');
  const found = pages.find(
    ({ path, file }) => path === named || path === `/${wanted}` || file === wanted || path === `/${wanted}/`,
  );
  if (found) return found.path;
  const some = pages.slice(0, 6).map(({ path }) => path);
  throw new UsageError(
    `The run has no page "${named}". It has ${some.join(', ')}${pages.length > some.length ? ` and ${pages.length - some.length} more` : ''}.`,
  );
}

/** @throws {UsageError} saying what could not be written where */
export async function writeTo(
  file: string,
  text: string | Uint8Array | Iterable<string>,
  what: string,
): Promise<void> {
  try {
    await writeFile(file, text);
  } catch (cause) {
    throw new UsageError(
      `The ${what} cannot be written to "${file}": ${causeInWords(cause)}. Name another file.`,
      {
        cause,
      },
    );
  }
}
