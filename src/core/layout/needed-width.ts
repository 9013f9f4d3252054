/**
 * The pixels across that a screen can show of a picture: drawn width × density, at most what the best source has.
 * @param drawnWidth CSS px
 * @param density device px per CSS px
 * @param largestSource device px; the largest width any source of this picture has
 */
export function neededWidth(drawnWidth: number, density: number, largestSource: number): number {
  // Layout leaves a slot a hair wider than the number it was given; a whole extra pixel is not worth asking for.
  const wanted = Math.ceil(drawnWidth * density - 0.05);
  return Math.max(0, Math.min(wanted, largestSource));
}
