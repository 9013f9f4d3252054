import { readFile, stat } from 'node:fs/promises';
import type { ImageFile } from '../core/run/index.js';
import { readImageFacts } from '../images/index.js';

/**
 * Reads an image file that the user named.
 * @throws {Error} saying what is wrong with it
 */
export async function readImageFile(name: string): Promise<{ content: Buffer; file: ImageFile }> {
  const found = await stat(name).catch(() => undefined);
  if (!found) throw new Error('there is no such file');
  if (found.isDirectory()) throw new Error('it is a folder; name the image files in it');
  const content = await readFile(name);
  const file = await readImageFacts(name, content);
  if (file.problem !== undefined) throw new Error(file.problem);
  return { content, file };
}
