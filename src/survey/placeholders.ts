import { causeInWords } from '../core/wording/words.js';
import type { Placeholder } from '../core/run/index.js';
import { makePlaceholder, placeholderPicture } from '../images/index.js';
import { readImageFile } from './image-files.js';

export type PlaceholderEntry =
  { name: string; width: number; height: number; offer: Placeholder } | { name: string; why: string };

/** Makes placeholders for image files; what cannot be read is told with its reason and costs the others nothing. */
export function makePlaceholders(names: readonly string[]): Promise<PlaceholderEntry[]> {
  return Promise.all(
    names.map(async (name) => {
      try {
        const { content, file } = await readImageFile(name);
        return { name, width: file.width, height: file.height, offer: await makePlaceholder(content) };
      } catch (cause) {
        return { name, why: causeInWords(cause) };
      }
    }),
  );
}

/** The picture and its placeholders side by side, as a PNG. */
export async function placeholdersAsPicture(name: string, offer: Placeholder): Promise<Buffer> {
  const { content } = await readImageFile(name);
  return placeholderPicture(content, offer);
}
