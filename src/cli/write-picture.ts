import { causeInWords } from '../core/wording/words.js';
import { writeFile } from 'node:fs/promises';
import { UsageError } from './errors.js';

/** @throws {UsageError} when the file cannot be written */
export async function writePicture(file: string, png: Buffer): Promise<void> {
  try {
    await writeFile(file, png);
  } catch (cause) {
    const why = causeInWords(cause);
    throw new UsageError(`The picture cannot be written to "${file}": ${why}. Give --picture another file.`, {
      cause,
    });
  }
}
