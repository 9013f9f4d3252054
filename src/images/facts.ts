import { createHash } from 'node:crypto';
import sharp, { type Metadata } from 'sharp';
import type { AlphaUse, ImageFile } from '../core/run/index.js';
import { readContainer } from './containers/index.js';
import { readOldFormat } from './old-formats.js';

/** Pictures with more pixels than this are not decoded: 268 megapixels, as browsers draw the line. */
export const mostPixels = 268_402_689;

/** What is known of a file that cannot be read. */
export function unknownFile(url: string, bytes: number, hash: string, problem: string): ImageFile {
  return {
    url,
    bytes,
    hash,
    problem,
    format: 'unknown',
    width: 0,
    height: 0,
    animated: false,
    frames: 1,
    colourSpace: '',
    bitDepth: 0,
    alpha: 'none',
    lossless: false,
    palette: false,
    quality: null,
    metadata: {},
  };
}

/** Reads the header facts of an image file. A file that cannot be read gives `problem`, never an error. */
export async function readImageFacts(url: string, content: Buffer): Promise<ImageFile> {
  const hash = createHash('sha256').update(content).digest('hex');
  if (content.length === 0) return unknownFile(url, 0, hash, 'the file is empty');
  const old = readOldFormat(content);
  if (old) return { ...unknownFile(url, content.length, hash, ''), ...old };
  try {
    const facts = await sharp(content, { limitInputPixels: mostPixels, animated: true }).metadata();
    const { width, height } = orientedSize(facts);
    const format = formatOf(facts);
    const { metadata, quality, lossless, palette, frames } = readContainer(format, content);
    const pictures = Math.max(frames, facts.pages ?? 1);
    return {
      url,
      format,
      width,
      height,
      bytes: content.length,
      animated: pictures > 1,
      frames: pictures,
      colourSpace: facts.space ?? '',
      bitDepth: facts.bitsPerSample ?? bitDepths[facts.depth ?? ''] ?? 8,
      alpha: await alphaOf(content, facts),
      lossless: lossless || format === 'svg',
      palette,
      quality,
      metadata: Object.fromEntries(Object.entries(metadata).sort()),
      hash,
    };
  } catch (cause) {
    return unknownFile(url, content.length, hash, problemOf(cause, content));
  }
}

const bitDepths: Record<string, number> = { uchar: 8, ushort: 16, float: 32 };

function formatOf({ format, compression }: Metadata): string {
  if (format === 'heif') return compression === 'av1' ? 'avif' : 'heif';
  return format ?? 'unknown';
}

/** Exif orientations 5 to 8 lie on their side. An animation is one tall strip of pages to the decoder. */
function orientedSize({ width = 0, height = 0, pageHeight, orientation = 1 }: Metadata) {
  const tall = pageHeight ?? height;
  return orientation >= 5 ? { width: tall, height: width } : { width, height: tall };
}

/** Pictures larger than this are taken to use the alpha channel that they have. */
const mostLookedAt = 50_000_000;

async function alphaOf(
  content: Buffer,
  { hasAlpha, format, width = 0, height = 0 }: Metadata,
): Promise<AlphaUse> {
  if (!hasAlpha) return 'none';
  if (format === 'svg' || format === 'gif' || width * height > mostLookedAt) return 'used';
  const { isOpaque } = await sharp(content, { limitInputPixels: mostPixels }).stats();
  return isOpaque ? 'unused' : 'used';
}

function problemOf(cause: unknown, content: Buffer): string {
  const said = cause instanceof Error ? (cause.message.split('\n')[0] ?? '') : String(cause);
  if (/unsupported image format/i.test(said)) {
    const start = content.subarray(0, 256).toString('latin1').trimStart().toLowerCase();
    return start.startsWith('<!doctype') || start.startsWith('<html')
      ? 'the file is an HTML page, not an image'
      : 'the file is not an image of a known format';
  }
  if (/exceeds pixel limit/i.test(said))
    return 'the picture has more than 268 megapixels, which browsers refuse to show';
  return `the file does not decode: ${said.replace(/^Input (buffer|file) /, '')}`;
}
