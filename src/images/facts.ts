import { createHash } from 'node:crypto';
import sharp, { type Metadata } from 'sharp';
import type { ImageFile } from '../core/run/index.js';

/** Pictures with more pixels than this are not decoded: 268 megapixels, as browsers draw the line. */
export const mostPixels = 268_402_689;

/** Reads the header facts of an image file. A file that cannot be read gives `problem`, never an error. */
export async function readImageFacts(url: string, content: Buffer): Promise<ImageFile> {
  const base = { url, bytes: content.length, hash: createHash('sha256').update(content).digest('hex') };
  const unknown = { ...base, format: 'unknown', width: 0, height: 0, animated: false };
  if (content.length === 0) return { ...unknown, problem: 'the file is empty' };
  try {
    const facts = await sharp(content, { limitInputPixels: mostPixels, animated: true }).metadata();
    const { width, height } = orientedSize(facts);
    return { ...base, format: formatOf(facts), width, height, animated: (facts.pages ?? 1) > 1 };
  } catch (cause) {
    return { ...unknown, problem: problemOf(cause, content) };
  }
}

function formatOf({ format, compression }: Metadata): string {
  if (format === 'heif') return compression === 'av1' ? 'avif' : 'heif';
  return format ?? 'unknown';
}

/** Exif orientations 5 to 8 lie on their side. An animation is one tall strip of pages to the decoder. */
function orientedSize({ width = 0, height = 0, pageHeight, orientation = 1 }: Metadata) {
  const tall = pageHeight ?? height;
  return orientation >= 5 ? { width: tall, height: width } : { width, height: tall };
}

function problemOf(cause: unknown, content: Buffer): string {
  const said = cause instanceof Error ? (cause.message.split('\n')[0] ?? '') : String(cause);
  if (/unsupported image format/i.test(said)) {
    const start = content.subarray(0, 256).toString('latin1').trimStart().toLowerCase();
    return start.startsWith('<!doctype') || start.startsWith('<html')
      ? 'the file is an HTML page, not an image'
      : 'the file is not an image of a known format';
  }
  return `the file does not decode: ${said.replace(/^Input (buffer|file) /, '')}`;
}
