import type { ImageFile } from '../core/run/index.js';

type OldFacts = Pick<ImageFile, 'format' | 'width' | 'height' | 'bitDepth' | 'lossless' | 'truncated'>;

/** Size and depth of an ICO or BMP file, which the decoder does not read; undefined for other files. */
export function readOldFormat(content: Buffer): OldFacts | undefined {
  if (content.length >= 26 && content.toString('latin1', 0, 2) === 'BM') return readBitmap(content);
  // An icon directory: reserved 0, type 1, then how many pictures.
  if (content.length >= 22 && content.readUInt32LE(0) === 0x00010000) return readIcon(content);
  return undefined;
}

function readBitmap(content: Buffer): OldFacts {
  const header = content.readUInt32LE(14);
  // BITMAPCOREHEADER has sizes of 16 bit; a negative height means rows from top to bottom.
  const core = header === 12;
  return {
    format: 'bmp',
    // Some writers leave the length of the file at 0.
    truncated: content.readUInt32LE(2) > content.length,
    width: core ? content.readUInt16LE(18) : Math.abs(content.readInt32LE(18)),
    height: core ? content.readUInt16LE(20) : Math.abs(content.readInt32LE(22)),
    bitDepth: 8,
    lossless: true,
  };
}

function readIcon(content: Buffer): OldFacts {
  let largest = { width: 0, height: 0 };
  const count = Math.min(content.readUInt16LE(4), Math.floor((content.length - 6) / 16));
  for (let index = 0; index < count; index++) {
    const at = 6 + index * 16;
    // A side of 0 stands for 256.
    const width = content[at] || 256;
    const height = content[at + 1] || 256;
    if (width * height > largest.width * largest.height) largest = { width, height };
  }
  return { format: 'ico', ...largest, bitDepth: 8, lossless: true, truncated: false };
}
