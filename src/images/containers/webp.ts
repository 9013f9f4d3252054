import { addBytes, type MetadataBytes, type MetadataKind } from './segments.js';

export interface WebpParts {
  metadata: MetadataBytes;
  lossless: boolean;
}

/** WebP container specification: RIFF chunks. */
const kinds: Record<string, MetadataKind> = {
  EXIF: 'camera notes',
  'XMP ': 'editing history',
  ICCP: 'colour profile',
};

export function readWebp(content: Buffer): WebpParts {
  const parts: WebpParts = { metadata: {}, lossless: false };
  for (let at = 12; at + 8 <= content.length;) {
    const type = content.toString('latin1', at, at + 4);
    const length = content.readUInt32LE(at + 4);
    const kind = kinds[type];
    if (kind) addBytes(parts.metadata, kind, length + 8);
    if (type === 'VP8L') parts.lossless = true;
    at += 8 + length + (length % 2);
  }
  return parts;
}
