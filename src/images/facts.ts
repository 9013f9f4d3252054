import { createHash } from 'node:crypto';
import type { Metadata } from 'sharp';
import type { AlphaUse, ImageFile } from '../core/run/index.js';
import { isSRgbProfile } from './colour-profile.js';
import { embeddedPictures } from './embedded-pictures.js';
import { readContainer, renameKind } from './containers/index.js';
import { readOldFormat } from './old-formats.js';
import { openPicture } from './open.js';

/** What is known of a file that cannot be read. */
export const unknownFile = (url: string, bytes: number, hash: string, problem: string): ImageFile => ({
  ...noFacts(url, bytes, hash),
  problem,
});

function noFacts(url: string, bytes: number, hash: string): ImageFile {
  return {
    url,
    bytes,
    hash,
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
    embedded: 0,
    turned: false,
    truncated: false,
    metadata: {},
  };
}

/** Reads the header facts of an image file. A file that cannot be read gives `problem`, never an error. */
export async function readImageFacts(url: string, content: Buffer): Promise<ImageFile> {
  const hash = createHash('sha256').update(content).digest('hex');
  if (content.length === 0) return unknownFile(url, 0, hash, 'the file is empty');
  const old = readOldFormat(content);
  if (old) return { ...noFacts(url, content.length, hash), ...old };
  try {
    const facts = await openPicture(content, { animated: true }).metadata();
    const { width, height } = orientedSize(facts);
    const format = formatOf(facts);
    const { metadata, quality, lossless, palette, frames, truncated } = readContainer(format, content);
    const carried =
      facts.icc && isSRgbProfile(facts.icc)
        ? renameKind(metadata, 'colour profile', 'sRGB profile')
        : metadata;
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
      // Of a file that is cut short nothing more is asked for.
      alpha: truncated && facts.hasAlpha ? 'used' : await alphaOf(content, facts),
      lossless: lossless || format === 'svg',
      palette,
      quality,
      embedded: format === 'svg' ? sumOf(embeddedPictures(content.toString('utf8'))) : 0,
      turned: turnedFormats.has(format) && (facts.orientation ?? 1) > 1,
      truncated,
      metadata: Object.fromEntries(Object.entries(carried).sort()),
      hash,
    };
  } catch (cause) {
    const { truncated } = readContainer(signatureOf(content), content);
    return { ...unknownFile(url, content.length, hash, problemOf(cause, content)), truncated };
  }
}

const sumOf = (numbers: readonly number[]) => numbers.reduce((sum, each) => sum + each, 0);

/** Formats whose orientation stands in the camera notes; others hold it where it stays. */
const turnedFormats = new Set(['jpeg', 'png', 'webp', 'tiff']);

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
  { hasAlpha, format, depth, pages = 1, width = 0, height = 0 }: Metadata,
): Promise<AlphaUse> {
  if (!hasAlpha) return 'none';
  if (format === 'svg' || pages > 1 || width * height > mostLookedAt) return 'used';
  const picture = openPicture(content);
  const isOpaque =
    depth === 'uchar'
      ? (await picture.extractChannel('alpha').raw().toBuffer()).every((value) => value === 255)
      : (await picture.stats()).isOpaque;
  return isOpaque ? 'unused' : 'used';
}

/** The format by the first bytes, for files that the decoder gives up on. */
function signatureOf(content: Buffer): string {
  const start = content.toString('latin1', 0, 12);
  if (start.startsWith('GIF8')) return 'gif';
  if (start.startsWith('RIFF') && start.endsWith('WEBP')) return 'webp';
  if (start.startsWith('\u0089PNG')) return 'png';
  if (start.startsWith('\u00ff\u00d8')) return 'jpeg';
  return start.slice(4, 12) === 'ftypavif' ? 'avif' : 'unknown';
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
