import type { ImageFile } from '../run/types.js';

/** What browsers show, or show by: it stays. */
const shown: ReadonlySet<string> = new Set(['colour profile', 'gain map']);
/** What names of author and licence take as plain Exif fields. */
const creditBytes = 400;
/** A segment of notes that says only how the picture is turned: Exif 2.32, section 4.5, with one entry. */
const turnBytes = 36;

/** What a file carries that no browser shows, and how many bytes of each kind can go. */
export function removableKinds(
  { metadata, turned }: Pick<ImageFile, 'metadata' | 'turned'>,
  keepCredits: boolean,
): [kind: string, bytes: number][] {
  const kinds = Object.entries(metadata).filter(([kind]) => !shown.has(kind));
  return kinds.map(([kind, bytes], index) => {
    // Kept credits are taken off the first kind, whichever holds them.
    const credits = keepCredits && index === 0 ? creditBytes : 0;
    const turn = turned && kind === 'camera notes' ? turnBytes : 0;
    return [kind, Math.max(0, bytes - credits - turn)];
  });
}

export function removableBytes(file: Pick<ImageFile, 'metadata' | 'turned'>, keepCredits: boolean): number {
  return removableKinds(file, keepCredits).reduce((sum, [, bytes]) => sum + bytes, 0);
}
