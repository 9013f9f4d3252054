import { addBytes, type MetadataBytes, type MetadataKind } from './segments.js';

export interface PngParts {
  metadata: MetadataBytes;
  palette: boolean;
  bitDepth: number;
  /** Frames of an APNG; 1 for a still picture. */
  frames: number;
  /** Whether the last chunk is missing or ends beyond the file. */
  truncated: boolean;
}

/** PNG specification (third edition), section 11.3: ancillary chunks. */
export const pngKinds: Readonly<Record<string, MetadataKind>> = {
  tEXt: 'comments',
  zTXt: 'comments',
  iTXt: 'editing history',
  eXIf: 'camera notes',
  iCCP: 'colour profile',
  tIME: 'comments',
};

/** Length, type and checksum of a chunk. */
const overhead = 12;

export function readPng(content: Buffer): PngParts {
  const parts: PngParts = { metadata: {}, palette: false, bitDepth: 8, frames: 1, truncated: true };
  let at = 8;
  while (at + overhead <= content.length) {
    const length = content.readUInt32BE(at);
    const type = content.toString('latin1', at + 4, at + 8);
    if (type === 'IHDR' && length >= 13) {
      parts.bitDepth = content[at + 16] ?? 8;
      parts.palette = content[at + 17] === 3;
    }
    if (type === 'acTL' && at + 12 <= content.length) parts.frames = content.readUInt32BE(at + 8);
    const kind = pngKinds[type];
    if (kind) addBytes(parts.metadata, kind, length + overhead);
    at += length + overhead;
    if (type === 'IEND') {
      parts.truncated = at > content.length;
      break;
    }
  }
  if (at < content.length)
    addBytes(parts.metadata, 'previews and other data after the picture', content.length - at);
  return parts;
}
