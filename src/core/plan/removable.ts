import type { ImageFile } from '../run/types.js';

/** A profile this small says sRGB in other words; larger ones may describe a wider range of colours and stay. */
const smallProfile = 700;
/** What names of author and licence take as plain Exif fields. */
const creditBytes = 400;

/** What a file carries that no browser shows, and how many bytes of each kind can go. */
export function removableKinds(
  { metadata, colourSpace }: Pick<ImageFile, 'metadata' | 'colourSpace'>,
  keepCredits: boolean,
): [kind: string, bytes: number][] {
  const kinds = Object.entries(metadata).filter(
    ([kind, bytes]) => kind !== 'colour profile' || (colourSpace === 'srgb' && bytes <= smallProfile),
  );
  return kinds.map(([kind, bytes], index) => [
    kind,
    // Kept credits are taken off the first kind, whichever holds them.
    keepCredits && index === 0 ? Math.max(0, bytes - creditBytes) : bytes,
  ]);
}

export function removableBytes(
  file: Pick<ImageFile, 'metadata' | 'colourSpace'>,
  keepCredits: boolean,
): number {
  return removableKinds(file, keepCredits).reduce((sum, [, bytes]) => sum + bytes, 0);
}
