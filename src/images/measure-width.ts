import { toDecimals } from '../core/wording/rounding.js';
import { standardQuality, usualLooks } from '../core/bytes/probe-plan.js';
import {
  equalLooks,
  hasAlphaChannel,
  nextQuality,
  sampleOf,
  startAfter,
  type LossyFormat,
  type PictureContent,
  type Pixels,
  type QualityTry,
  type SearchStart,
} from '../core/likeness/index.js';
import type { PricePoint } from '../core/run/index.js';
import { decodeBack, type encode, type Recipe } from './encode.js';
import { canCompare, Original } from './likeness.js';
import type { Measured, MeasureOrder } from './measure-order.js';

/** A measurement of one picture that is under way. */
export interface Measuring {
  order: MeasureOrder;
  kind: PictureContent;
  result: Measured;
  encode: typeof encode;
  /** Whether the encoder takes any pixels, samples of a picture too. */
  samples: boolean;
}

/** Adds what the picture weighs at the width of these pixels. */
export async function measureWidth(pixels: Pixels, measuring: Measuring): Promise<void> {
  const { order, kind, result, encode } = measuring;
  const { width } = pixels;
  const original = new Original(pixels);
  const recipe = ownRecipe({ ...order, quality: order.resizedQuality ?? order.quality });
  if (recipe) {
    const encoded = await encode(pixels, recipe);
    result.alike.push({ width, bytes: encoded.length, quality: recipe.quality, decibels: null });
  }
  const add = (format: string, point: PricePoint) => (result.formats[format] ??= []).push(point);
  if (order.lossless && kind !== 'photo') await measureLossless(original, measuring, add);
  if (order.lossless && kind === 'graphic') return;
  // Lines and lettering among the shades of a picture suffer first.
  const looks = order.lossless && kind === 'between' ? Math.max(order.looks, betweenLooks) : order.looks;
  const quality = standardQuality(order, width, looks);
  const standards = await likenessToReach(original, quality, encode);
  const { standard } = standards;
  const target =
    order.lossless && width === order.width
      ? await withoutGrid(pixels, standards.target, (shifted) => likenessToReach(shifted, quality, encode))
      : standards.target;
  const whole = { original, target };
  // What lossy formats make of drawings is not offered, so it need not be known.
  const wanted = new Set([order.format, ...(kind === 'graphic' ? [] : order.formats)]);
  // A JPEG has no transparency; it still sets the likeness that the others must reach.
  if (wanted.has('jpeg') && !order.alpha && standard)
    add('jpeg', { width, bytes: standard.length, quality, decibels: toDecimals(target, 2) });
  const searched = (['webp', 'avif'] as const).filter((format) => wanted.has(format));
  const sample =
    measuring.samples && searched.length > 0 ? await sampled(pixels, quality, encode) : undefined;
  for (const format of searched) {
    const point = await search(format, whole, sample, encode);
    const before = result.formats[format]?.at(-1);
    // Between graphic and photo both ways of storing are tried; the smaller one counts.
    if (before?.width !== width) add(format, point);
    else if (point.bytes < before.bytes) result.formats[format]?.splice(-1, 1, point);
  }
}

async function sampled(
  pixels: Pixels,
  quality: number,
  encode: Measuring['encode'],
): Promise<Searched | undefined> {
  const sample = sampleOf(pixels);
  if (!sample) return undefined;
  const original = new Original(sample);
  return { original, target: (await likenessToReach(original, quality, encode)).target };
}

/** The JPEG quality that stands for equal looks of pictures between drawing and photograph, unless a higher one is asked for. */
const betweenLooks = 90;

/** How the file itself was encoded, as far as it can be read from it. */
export function ownRecipe({
  format,
  quality,
  lossless,
  palette,
}: Pick<MeasureOrder, 'format' | 'quality' | 'lossless' | 'palette'>): Recipe | undefined {
  if (format === 'jpeg') return { format, quality: quality ?? usualLooks };
  if (format === 'png') return { format, quality: null, palette };
  if (format === 'gif' || format === 'bmp') return { format, quality: null };
  return format === 'webp' && lossless ? { format, quality: null } : undefined;
}

const pngFrom = new Set(['png', 'gif', 'bmp']);

async function measureLossless(
  original: Original,
  { order, encode }: Measuring,
  add: (format: string, point: PricePoint) => void,
): Promise<void> {
  // What was a GIF or a bitmap is a PNG at its plainest.
  const png = pngFrom.has(order.format);
  const webp = order.drawingFormats.includes('webp') || order.format === 'webp';
  if (!png && !webp) return;
  const lightest = await lightestLossless(original, encode, { png, webp });
  for (const [format, { content, palette }] of Object.entries(lightest))
    add(format, {
      width: original.pixels.width,
      bytes: content.length,
      quality: null,
      ...(palette ? { palette } : {}),
      decibels: null,
    });
}

/** A file of a drawing, and whether its colours were reduced to a palette. */
export interface LosslessFile {
  content: Buffer;
  palette: boolean;
}

/** The formats of drawings, with their colours reduced to a palette where that is smaller and cannot be seen. */
export async function lightestLossless(
  original: Original,
  encode: Measuring['encode'],
  wanted: Readonly<Record<'png' | 'webp', boolean>>,
): Promise<Partial<Record<'png' | 'webp', LosslessFile>>> {
  const { pixels } = original;
  const reduced = await encode(pixels, { format: 'png', quality: null, palette: true });
  const isAlike = await original.looksTheSame(reduced);
  const lighter = (whole: Buffer, other: Buffer): LosslessFile =>
    isAlike && other.length < whole.length
      ? { content: other, palette: true }
      : { content: whole, palette: false };
  const found: Partial<Record<'png' | 'webp', LosslessFile>> = {};
  if (wanted.png) found.png = lighter(await encode(pixels, { format: 'png', quality: null }), reduced);
  if (wanted.webp) {
    const whole = await encode(pixels, { format: 'webp', quality: null });
    const few = isAlike ? await decodeBack(reduced, hasAlphaChannel(pixels)) : pixels;
    // A palette that holds every colour changes nothing.
    const isSame = Buffer.compare(few.data, pixels.data) === 0;
    found.webp = lighter(whole, isSame ? whole : await encode(few, { format: 'webp', quality: null }));
  }
  return found;
}

/**
 * The likeness that a lossy encode must reach to look the same, dB: that of a plain JPEG, on each ground that the picture is compared on.
 * @returns the JPEG on the first ground too
 */
export async function likenessToReach(
  original: Original,
  quality: number,
  encode: Measuring['encode'],
): Promise<{ target: number; standard: Buffer | undefined }> {
  const standards = await Promise.all(
    original.grounds.map((ground) => encode(original.pixels, { format: 'jpeg', quality, ground })),
  );
  return { target: await original.decibels(standards), standard: standards[0] };
}

/** Pictures whose plain JPEG is so much more like them on one grid of blocks than on another one were a JPEG before, dB. */
const ofAnEarlierJpeg = 1;

/** Half a block of a JPEG, px. ITU-T T.81, A.2.2: blocks of 8 × 8. */
const halfBlock = 4;

/**
 * The likeness to reach of a picture that is stored without loss, but may have been a JPEG: made one again on the same grid of blocks it hardly
 * changes, and no other format could come near to that. Half a block beside the grid it is a picture like all others.
 */
async function withoutGrid(
  { data, width, height, channels }: Pixels,
  target: number,
  reach: (shifted: Original) => Promise<{ target: number }>,
): Promise<number> {
  const size = { width: width - halfBlock, height: height - halfBlock };
  if (!canCompare(size)) return target;
  const shifted = new Uint8Array(size.width * size.height * channels);
  for (let row = 0; row < size.height; row++) {
    const from = ((row + halfBlock) * width + halfBlock) * channels;
    shifted.set(data.subarray(from, from + size.width * channels), row * size.width * channels);
  }
  const beside = await reach(new Original({ data: shifted, ...size, channels }));
  return target - beside.target > ofAnEarlierJpeg ? beside.target : target;
}

/** A picture as far as qualities are looked for with it, and the likeness that its encodes must reach, dB. */
interface Searched {
  original: Original;
  target: number;
}

/**
 * Finds the quality of equal looks, first with a sample of the picture, then, from there on, with the whole: what is told was made of the
 * whole, with as few encodes of it as can be.
 */
async function search(
  format: LossyFormat,
  whole: Searched,
  sample: Searched | undefined,
  encode: Measuring['encode'],
): Promise<PricePoint> {
  const { width } = whole.original.pixels;
  const { target } = whole;
  const start =
    sample && startAfter(format, width, await triesOf(format, width, sample, encode), sample.target);
  const tries = await triesOf(format, width, whole, encode, start);
  const { quality, bytes: atTarget } = equalLooks(format, width, tries, target, start);
  // Whoever makes the file with this quality gets these bytes: they are promised, so they are made.
  const { bytes, decibels } =
    tries.find((each) => each.quality === quality) ?? (await attempt(format, quality, whole, encode));
  return { width, bytes, atTarget, quality, decibels: toDecimals(decibels, 2) };
}

/** The encodes that a search makes of a picture or of a sample of one. */
async function triesOf(
  format: LossyFormat,
  width: number,
  searched: Searched,
  encode: Measuring['encode'],
  start?: SearchStart,
): Promise<QualityTry[]> {
  const tries: QualityTry[] = [];
  for (;;) {
    const quality = nextQuality(format, width, tries, searched.target, start);
    if (quality === undefined) return tries;
    tries.push(await attempt(format, quality, searched, encode));
  }
}

async function attempt(
  format: LossyFormat,
  quality: number,
  { original }: Searched,
  encode: Measuring['encode'],
): Promise<QualityTry> {
  const encoded = await encode(original.pixels, { format, quality });
  return { quality, bytes: encoded.length, decibels: await original.decibels([encoded]) };
}
