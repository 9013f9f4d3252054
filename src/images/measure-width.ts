import { toDecimals } from '../core/wording/rounding.js';
import { standardQuality, usualLooks } from '../core/bytes/probe-plan.js';
import {
  equalLooks,
  nextQuality,
  type LossyFormat,
  type PictureContent,
  type Pixels,
  type QualityTry,
} from '../core/likeness/index.js';
import type { PricePoint } from '../core/run/index.js';
import type { encode, Recipe } from './encode.js';
import { Original } from './likeness.js';
import type { Measured, MeasureOrder } from './measure-order.js';

/** A measurement of one picture that is under way. */
export interface Measuring {
  order: MeasureOrder;
  kind: PictureContent;
  result: Measured;
  encode: typeof encode;
}

/** Adds what the picture weighs at the width of these pixels. */
export async function measureWidth(pixels: Pixels, measuring: Measuring): Promise<void> {
  const { order, kind, result, encode } = measuring;
  const { width } = pixels;
  const original = new Original(pixels);
  const recipe = ownRecipe(order);
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
  const { target, standard } = await likenessToReach(original, quality, encode);
  // What lossy formats make of drawings is not offered, so it need not be known.
  const wanted = new Set([order.format, ...(kind === 'graphic' ? [] : order.formats)]);
  // A JPEG has no transparency; it still sets the likeness that the others must reach.
  if (wanted.has('jpeg') && !order.alpha && standard)
    add('jpeg', { width, bytes: standard.length, quality, decibels: toDecimals(target, 2) });
  for (const format of ['webp', 'avif'] as const) {
    if (!wanted.has(format)) continue;
    const point = await search(original, format, target, measuring);
    const before = result.formats[format]?.at(-1);
    // Between graphic and photo both ways of storing are tried; the smaller one counts.
    if (before?.width !== width) add(format, point);
    else if (point.bytes < before.bytes) result.formats[format]?.splice(-1, 1, point);
  }
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
  const { pixels } = original;
  const point = (encoded: Buffer): PricePoint => ({
    width: pixels.width,
    bytes: encoded.length,
    quality: null,
    decibels: null,
  });
  // What was a GIF or a bitmap is a PNG at its plainest.
  if (pngFrom.has(order.format)) {
    add('png', point(await lightestPng(original, encode)));
  }
  if (order.drawingFormats.includes('webp') || order.format === 'webp')
    add('webp', point(await encode(pixels, { format: 'webp', quality: null })));
}

/** A PNG with a palette where that is smaller and cannot be seen. */
export async function lightestPng(original: Original, encode: Measuring['encode']): Promise<Buffer> {
  const whole = await encode(original.pixels, { format: 'png', quality: null });
  const reduced = await encode(original.pixels, { format: 'png', quality: null, palette: true });
  return reduced.length < whole.length && (await original.looksTheSame(reduced)) ? reduced : whole;
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

async function search(
  original: Original,
  format: LossyFormat,
  target: number,
  { encode }: Measuring,
): Promise<PricePoint> {
  const { pixels } = original;
  const tries: QualityTry[] = [];
  const attempt = async (quality: number): Promise<QualityTry> => {
    const encoded = await encode(pixels, { format, quality });
    const made = { quality, bytes: encoded.length, decibels: await original.decibels([encoded]) };
    tries.push(made);
    return made;
  };
  for (;;) {
    const quality = nextQuality(format, pixels.width, tries, target);
    if (quality === undefined) break;
    await attempt(quality);
  }
  const { width } = pixels;
  const { quality, bytes: atTarget } = equalLooks(format, width, tries, target);
  // Whoever makes the file with this quality gets these bytes: they are promised, so they are made.
  const { bytes, decibels } = tries.find((each) => each.quality === quality) ?? (await attempt(quality));
  return { width, bytes, atTarget, quality, decibels: toDecimals(decibels, 2) };
}
