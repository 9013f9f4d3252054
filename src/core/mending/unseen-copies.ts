import type { Fix, Placement } from '../run/types.js';

/** A text that a fix edits and that stands in further files, which no audit saw. */
export interface UnseenCopies {
  fix: string;
  title: string;
  /** Sorted. */
  files: string[];
}

/** Shorter texts, such as a lone address in a style, say nothing. */
const shortest = 20;

/**
 * Files that hold a text which fixes edit elsewhere: copies of a partial whose pages were not audited. They stay as they are, since
 * nobody has seen how the image is shown there.
 * @param unseen contents of the files that no audit saw, by file
 */
export function unseenCopies(
  fixes: readonly Fix[],
  placements: ReadonlyMap<string, Pick<Placement, 'markup'>>,
  unseen: ReadonlyMap<string, string>,
): UnseenCopies[] {
  if (unseen.size === 0) return [];
  return fixes.flatMap(({ id, title, places }): UnseenCopies[] => {
    const texts = new Set(
      places.flatMap(({ placement, source, after }) => {
        const before = placements.get(placement)?.markup ?? '';
        return source !== null && before.length >= shortest && before !== after ? [before] : [];
      }),
    );
    const files = [...unseen]
      .filter(([, content]) => [...texts].some((text) => content.includes(text)))
      .map(([file]) => file)
      .sort();
    return files.length > 0 ? [{ fix: id, title, files }] : [];
  });
}
