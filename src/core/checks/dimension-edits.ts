import { readImageMarkup } from '../markup/index.js';
import type { TagEdit } from '../fixes/tag.js';
import type { ImageFile, Placement } from '../run/types.js';
import type { Facts } from './facts.js';

/** The file whose ratio the `img` should state: the delivered one, if its size is known. */
export function deliveredFile(placement: Placement, facts: Facts): ImageFile | undefined {
  const files = Object.values(placement.downloads).map(({ url }) => facts.files.get(url));
  return files.find((file) => file !== undefined && file.width > 0 && file.height > 0);
}

/** Writes the file's width and height into the tag. */
export function dimensionEdits(placement: Placement, facts: Facts): TagEdit[] {
  const file = deliveredFile(placement, facts);
  if (!file || !readImageMarkup(placement.markup)) return [];
  return [
    { kind: 'set', name: 'width', value: String(file.width) },
    { kind: 'set', name: 'height', value: String(file.height) },
  ];
}
