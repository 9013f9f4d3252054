import { readFile, writeFile } from 'node:fs/promises';
import { readRun, type Run } from '../core/run/index.js';
import { causeInWords } from '../core/wording/words.js';
import { UsageError } from './errors.js';

/** @throws {UsageError} saying what is wrong with the file */
export async function readSavedRun(file: string): Promise<Run> {
  try {
    return readRun(JSON.parse(await readFile(file, 'utf8')));
  } catch (cause) {
    throw new UsageError(
      `"${file}" is no run of this version: ${causeInWords(cause)}. Save one with yukkuri audit <folder> --json ${file}.`,
      { cause },
    );
  }
}

/** @throws {UsageError} saying what could not be written where */
export async function writeTo(file: string, text: string, what: string): Promise<void> {
  try {
    await writeFile(file, text);
  } catch (cause) {
    throw new UsageError(`The ${what} cannot be written to "${file}": ${causeInWords(cause)}.`, { cause });
  }
}
