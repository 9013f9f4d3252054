import sharp from 'sharp';

/** The encoder's versions, for the run: other versions give other bytes. */
export function encoderVersions(): string {
  const { sharp: own, vips } = sharp.versions;
  return `sharp ${own ?? 'unknown'}, libvips ${vips}`;
}
