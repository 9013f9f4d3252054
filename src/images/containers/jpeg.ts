import { jpegQuality } from '../../core/likeness/index.js';
import { addBytes, type MetadataBytes, type MetadataKind } from './segments.js';

export interface JpegParts {
  metadata: MetadataBytes;
  /** On the usual scale, from the luminance table; null where there is none. */
  quality: number | null;
  /** Whether the end marker is missing. */
  truncated: boolean;
}

/** ISO/IEC 10918-1, table B.1: markers. */
const [startOfScan, endOfImage, tables, comment] = [0xda, 0xd9, 0xdb, 0xfe];

/** A stretch of the file and what it is; undefined for what belongs to the picture. */
export interface JpegSegment {
  from: number;
  to: number;
  kind: MetadataKind | undefined;
  marker: number;
}

/**
 * The stretches behind the start marker, in order, to the end of the file, and whether the picture has an end. A broken file gives what was
 * found up to the fault.
 */
export function jpegSegments(content: Buffer): { segments: JpegSegment[]; truncated: boolean } {
  const found: JpegSegment[] = [];
  const gainMap = hasGainMap(content);
  let at = 2;
  while (at + 4 <= content.length && content[at] === 0xff) {
    const marker = content[at + 1] ?? 0;
    if (marker === 0xff) {
      found.push({ from: at, to: at + 1, kind: undefined, marker });
      at++;
      continue;
    }
    if (marker === startOfScan) break;
    const to = at + 2 + content.readUInt16BE(at + 2);
    found.push({ from: at, to, kind: kindOf(marker, content.subarray(at + 4, to), gainMap), marker });
    at = to;
  }
  const end = endOfPicture(content, at);
  found.push({ from: at, to: end ?? content.length, kind: undefined, marker: startOfScan });
  if (end !== undefined && end < content.length)
    found.push({
      from: end,
      to: content.length,
      kind: gainMap ? 'gain map' : 'previews and other data after the picture',
      marker: endOfImage,
    });
  return { segments: found, truncated: end === undefined };
}

/** What a JPEG file tells of itself beside its picture. */
export function readJpeg(content: Buffer): JpegParts {
  const { segments, truncated } = jpegSegments(content);
  const parts: JpegParts = { metadata: {}, quality: null, truncated };
  for (const { from, to, kind, marker } of segments) {
    if (marker === tables) parts.quality ??= luminanceQuality(content.subarray(from + 4, to));
    if (kind) addBytes(parts.metadata, kind, to - from);
  }
  return parts;
}

/**
 * Words by which a file says that a second picture after its end tells how much brighter a bright screen shows each spot: ISO 21496-1,
 * and the two forms in use before it.
 */
const gainMapSigns = [
  'urn:iso:std:iso:ts:21496:-1',
  'http://ns.adobe.com/hdr-gain-map/1.0/',
  'urn:com:apple:photo:2020:aux:hdrgainmap',
];

const hasGainMap = (content: Buffer) => gainMapSigns.some((sign) => content.includes(sign, 0, 'latin1'));

/** Segments without which the gain map would not be found or understood. */
function belongsToGainMap(marker: number, body: Buffer): boolean {
  const isIndex = marker === 0xe2 && body.toString('latin1', 0, 4) === 'MPF\0';
  return isIndex || gainMapSigns.some((sign) => body.includes(sign, 0, 'latin1'));
}

function kindOf(marker: number, body: Buffer, gainMap: boolean): MetadataKind | undefined {
  if (gainMap && belongsToGainMap(marker, body)) return 'gain map';
  if (marker === comment) return 'comments';
  const name = body.subarray(0, 32).toString('latin1');
  if (marker === 0xe1) return name.startsWith('Exif\0') ? 'camera notes' : 'editing history';
  if (marker === 0xe2) return name.startsWith('ICC_PROFILE\0') ? 'colour profile' : 'camera notes';
  if (marker === 0xed) return 'captions';
  // APP0 tells the density, APP14 how colours are stored: decoders need both.
  return marker >= 0xe3 && marker <= 0xef && marker !== 0xee ? 'camera notes' : undefined;
}

/** The luminance table of a DQT segment; 8 or 16 bit. */
function luminanceQuality(body: Buffer): number | null {
  for (let at = 0; at < body.length;) {
    const [wide, id] = [(body[at] ?? 0) >> 4 !== 0, (body[at] ?? 0) & 15];
    const size = wide ? 2 : 1;
    const steps = Array.from({ length: 64 }, (_, index) => {
      const place = at + 1 + index * size;
      return wide ? (body[place] ?? 0) * 256 + (body[place + 1] ?? 0) : (body[place] ?? 0);
    });
    if (id === 0) return jpegQuality(steps);
    at += 1 + 64 * size;
  }
  return null;
}

/** Where the picture ends: cameras append whole previews behind it. Undefined where the end marker is missing. */
function endOfPicture(content: Buffer, scan: number): number | undefined {
  // In the scan a byte 0xFF of the picture itself is always followed by 0, so no end marker can stand within.
  const end = content.indexOf(Buffer.from([0xff, endOfImage]), scan);
  return end < 0 ? undefined : end + 2;
}
