import { webpQuality } from '../../core/likeness/index.js';
import { vp8Quantiser } from './vp8.js';
import { addBytes, type MetadataBytes, type MetadataKind } from './segments.js';

export interface WebpParts {
  metadata: MetadataBytes;
  lossless: boolean;
  /** Of a still picture that is stored with losses. */
  quality: number | null;
  /** Whether the file is shorter than its header says. */
  truncated: boolean;
}

/** WebP container specification: RIFF chunks. */
export const webpKinds: Readonly<Record<string, MetadataKind>> = {
  EXIF: 'camera notes',
  'XMP ': 'editing history',
  ICCP: 'colour profile',
};

export function readWebp(content: Buffer): WebpParts {
  const parts: WebpParts = {
    metadata: {},
    lossless: false,
    quality: null,
    // Some writers leave out the byte that pads to an even length.
    truncated: content.length >= 8 && content.readUInt32LE(4) + 7 > content.length,
  };
  for (let at = 12; at + 8 <= content.length;) {
    const type = content.toString('latin1', at, at + 4);
    const length = content.readUInt32LE(at + 4);
    const kind = webpKinds[type];
    if (kind) addBytes(parts.metadata, kind, length + 8);
    if (type === 'VP8L') parts.lossless = true;
    if (type === 'VP8 ') parts.quality = qualityOf(content.subarray(at + 8, at + 8 + length));
    at += 8 + length + (length % 2);
  }
  return parts;
}

function qualityOf(frame: Buffer): number | null {
  const quantiser = vp8Quantiser(frame);
  return quantiser === undefined ? null : webpQuality(quantiser);
}
