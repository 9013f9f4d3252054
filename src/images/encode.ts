import { encode as encodeBitmap } from 'bmp-ts';
import sharp, { type Sharp } from 'sharp';
import { hasAlphaChannel, type Pixels } from '../core/likeness/index.js';
import { mostPixels, openPicture } from './open.js';

/** An encoder's setting. Quality is null for lossless storage. */
export interface Recipe {
  format: 'jpeg' | 'webp' | 'avif' | 'png' | 'gif' | 'bmp';
  quality: number | null;
  /** PNG only: at most 256 colours. */
  palette?: boolean;
  /** JPEG only: brightness of the ground on which a transparent picture is painted, 0 to 255; white if left out. */
  ground?: number;
}

/** How an encoder is used beside its setting. */
export interface EncodeOptions {
  /** Whether it may take its time: the same setting, fewer bytes. */
  thorough?: boolean;
  /** Fields that the file carries along. */
  exif?: { IFD0: Record<string, string> } | undefined;
}

/** Longest time for one encode or decode. */
export const limitSeconds = 60;

/** Formats that are encoded here. */
export const canEncode = (format: string) => ['jpeg', 'webp', 'avif', 'png'].includes(format);

/** Pixels of any picture file at a width, in 8-bit sRGB with the orientation applied. Width in px, at most the picture's own. */
export async function decodeAt(content: Buffer, width: number, keepAlpha: boolean): Promise<Pixels> {
  const picture = openPicture(content).timeout({ seconds: limitSeconds }).autoOrient().toColourspace('srgb');
  // Reduced decoding of JPEGs gives slightly other pixels than a reduction of the whole picture.
  return toPixels((keepAlpha ? picture : picture.removeAlpha()).resize({ width, fastShrinkOnLoad: false }));
}

/** Pixels made smaller, px wide. */
export function reducePixels(pixels: Pixels, width: number): Promise<Pixels> {
  return toPixels(fromPixels(pixels).resize({ width }));
}

export function encode(
  pixels: Pixels,
  { format, quality, palette = false, ground = 255 }: Recipe,
  { thorough = false, exif }: EncodeOptions = {},
): Promise<Buffer> {
  const bare = fromPixels(pixels).timeout({ seconds: thorough ? limitSeconds * 5 : limitSeconds });
  const picture = exif ? bare.withExif(exif) : bare;
  const options = quality === null ? {} : { quality };
  switch (format) {
    case 'jpeg': {
      const opaque = hasAlphaChannel(pixels)
        ? picture.flatten({ background: { r: ground, g: ground, b: ground } })
        : picture;
      const patient = { trellisQuantisation: true, overshootDeringing: true, optimiseScans: true };
      return opaque.jpeg({ ...options, progressive: true, ...(thorough ? patient : {}) }).toBuffer();
    }
    case 'webp':
      return picture
        .webp({ ...(quality === null ? { lossless: true } : options), ...(thorough ? { effort: 6 } : {}) })
        .toBuffer();
    case 'avif':
      return picture.avif({ ...options, effort: thorough ? 4 : 0, chromaSubsampling: '4:2:0' }).toBuffer();
    case 'png':
      return picture
        .png(
          palette
            ? { palette: true, dither: 0, compressionLevel: 9, ...(thorough ? { effort: 10 } : {}) }
            : { compressionLevel: 9, adaptiveFiltering: true },
        )
        .toBuffer();
    case 'gif':
      return picture.gif({ dither: 0 }).toBuffer();
    case 'bmp':
      return toBitmap(picture);
  }
}

async function toBitmap(picture: Sharp): Promise<Buffer> {
  const { data, width, height } = await toPixels(picture.toColourspace('srgb').ensureAlpha());
  // The encoder takes alpha, blue, green and red.
  return encodeBitmap({ data: Buffer.from(data).swap32(), width, height, bitPP: 24 }).data;
}

/** Enough pixels across to judge the kind of a lossily stored picture. */
export const glanceWidth = 1600;
/** Larger lossless pictures are judged by a part of them from the middle. */
const middleSide = 4000;

/** Pixels of a losslessly stored picture as they are, without any reduction, to judge its kind by. */
export async function middleOf(
  content: Buffer,
  { width, height, alpha }: { width: number; height: number; alpha: boolean },
): Promise<Pixels> {
  const part = { width: Math.min(width, middleSide), height: Math.min(height, middleSide) };
  const left = Math.floor((width - part.width) / 2);
  const top = Math.floor((height - part.height) / 2);
  const picture = openPicture(content).timeout({ seconds: limitSeconds }).autoOrient().toColourspace('srgb');
  return toPixels((alpha ? picture : picture.removeAlpha()).extract({ left, top, ...part }));
}

/** An encoded file's pixels, with as many channels as the original has where the decoder allows. */
export function decodeBack(encoded: Buffer, keepAlpha: boolean): Promise<Pixels> {
  const picture = sharp(encoded, { limitInputPixels: mostPixels }).toColourspace('srgb');
  return toPixels(keepAlpha ? picture.ensureAlpha() : picture.removeAlpha());
}

/** Pixels of a picture at a width, px, without transparency. */
export function readPixels(content: Buffer, width: number): Promise<Pixels> {
  return toPixels(sharp(content).removeAlpha().resize({ width, kernel: 'nearest' }));
}

function fromPixels({ data, width, height, channels }: Pixels): Sharp {
  return sharp(data, { raw: { width, height, channels }, limitInputPixels: mostPixels });
}

async function toPixels(picture: Sharp): Promise<Pixels> {
  const { data, info } = await picture.raw().toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height, channels: info.channels as Pixels['channels'] };
}
