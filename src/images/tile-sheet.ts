import sharp from 'sharp';

/** A picture with a line of text above it. */
export interface LabelledPicture {
  label: string;
  picture: Buffer;
}

const gap = 12;
const labelHeight = 30;
const inRow = 4;

/** Lays pictures of one size side by side, at most four in a row, as a PNG. Size in px. */
export function tileSheet(
  tiles: readonly LabelledPicture[],
  { width, height }: { width: number; height: number },
): Promise<Buffer> {
  const columns = Math.min(inRow, tiles.length);
  const [cellWidth, cellHeight] = [width + gap, height + labelHeight + gap];
  const layers = tiles.flatMap(({ label, picture }, index) => {
    const left = gap + (index % columns) * cellWidth;
    const top = gap + Math.floor(index / columns) * cellHeight;
    return [
      { input: labelImage(label, width), left, top },
      { input: picture, left, top: top + labelHeight },
    ];
  });
  return sharp({
    create: {
      width: gap + columns * cellWidth,
      height: gap + Math.ceil(tiles.length / columns) * cellHeight,
      channels: 3,
      background: '#f4f4f2',
    },
  })
    .composite(layers)
    .png({ compressionLevel: 9 })
    .toBuffer();
}

function labelImage(text: string, width: number): Buffer {
  const safe = text.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
  return Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${labelHeight}"><text x="0" y="20" font-family="sans-serif" font-size="14" fill="#222">${safe}</text></svg>`,
  );
}
