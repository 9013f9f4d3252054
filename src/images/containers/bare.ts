import type { MetadataKind } from './segments.js';
import { afterBlocks, tableBytes } from './gif.js';
import { jpegSegments } from './jpeg.js';
import { pngKinds } from './png.js';
import { webpKinds } from './webp.js';

/** Kinds that a file keeps. */
export type Keeps = (kind: MetadataKind) => boolean;

/**
 * A file without what it carries beside its picture; the picture itself stays byte for byte.
 * @param orientation of a JPEG that is stored turned, 1 to 8: the one note that it keeps
 * @throws {Error} for a format of which nothing can be taken out
 */
export function bareFile(content: Buffer, format: string, keeps: Keeps, orientation: number): Buffer {
  if (orientation > 1 && format !== 'jpeg')
    throw new Error(`a ${format.toUpperCase()} that is stored turned would lose how`);
  switch (format) {
    case 'jpeg':
      return bareJpeg(content, keeps, orientation);
    case 'png':
      return barePng(content, keeps);
    case 'webp':
      return bareWebp(content, keeps);
    case 'gif':
      return bareGif(content);
    default:
      throw new Error(`nothing can be taken out of ${format.toUpperCase()} files`);
  }
}

function bareJpeg(content: Buffer, keeps: Keeps, orientation: number): Buffer {
  const kept: Buffer[] = [content.subarray(0, 2)];
  if (orientation > 1) kept.push(turnSegment(orientation));
  for (const { from, to, kind } of jpegSegments(content).segments)
    if (kind === undefined || keeps(kind)) kept.push(content.subarray(from, to));
  return Buffer.concat(kept);
}

/** Exif 2.32, section 4.5: a segment with one entry, the orientation (tag 0x0112, one SHORT). */
function turnSegment(orientation: number): Buffer {
  return Buffer.concat([
    Buffer.from([0xff, 0xe1, 0, 34]),
    Buffer.from('Exif\0\0MM\0*\0\0\0\b', 'latin1'),
    Buffer.from([0, 1, 0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, orientation, 0, 0, 0, 0, 0, 0]),
  ]);
}

function barePng(content: Buffer, keeps: Keeps): Buffer {
  const kept: Buffer[] = [content.subarray(0, 8)];
  for (let at = 8; at + 12 <= content.length;) {
    const end = at + 12 + content.readUInt32BE(at);
    const type = content.toString('latin1', at + 4, at + 8);
    const kind = pngKinds[type];
    if (kind === undefined || keeps(kind)) kept.push(content.subarray(at, end));
    at = end;
    if (type === 'IEND') break;
  }
  return Buffer.concat(kept);
}

/** WebP container specification, extended format: the flags that say which chunks there are. */
const webpFlags: Readonly<Record<string, number>> = { EXIF: 0x08, 'XMP ': 0x04, ICCP: 0x20 };

function bareWebp(content: Buffer, keeps: Keeps): Buffer {
  const kept: Buffer[] = [];
  let dropped = 0;
  for (let at = 12; at + 8 <= content.length;) {
    const type = content.toString('latin1', at, at + 4);
    const length = content.readUInt32LE(at + 4);
    const end = at + 8 + length + (length % 2);
    const kind = webpKinds[type];
    if (kind && !keeps(kind)) dropped |= webpFlags[type] ?? 0;
    else kept.push(Buffer.from(content.subarray(at, end)));
    at = end;
  }
  const [first] = kept;
  if (first?.toString('latin1', 0, 4) === 'VP8X') first[8] = (first[8] ?? 0) & ~dropped;
  const body = Buffer.concat(kept);
  const head = Buffer.from(content.subarray(0, 12));
  head.writeUInt32LE(body.length + 4, 4);
  return Buffer.concat([head, body]);
}

/** GIF89a, sections 24 and 26: comments, and the application extension that holds XMP. */
function bareGif(content: Buffer): Buffer {
  const skipBlocks = (from: number) => afterBlocks(content, from);
  let at = 13 + tableBytes(content[10] ?? 0);
  const kept: Buffer[] = [content.subarray(0, at)];
  while (at < content.length && content[at] !== 0x3b) {
    const start = at;
    const isExtension = content[at] === 0x21;
    at = isExtension ? skipBlocks(at + 2) : skipBlocks(at + 11 + tableBytes(content[at + 9] ?? 0));
    const label = content[start + 1];
    const isXmp = label === 0xff && content.toString('latin1', start + 3, start + 11) === 'XMP Data';
    if (!(isExtension && (label === 0xfe || isXmp))) kept.push(content.subarray(start, at));
  }
  kept.push(content.subarray(at));
  return Buffer.concat(kept);
}
