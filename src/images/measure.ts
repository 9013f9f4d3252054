import {
  contentOf,
  edgeShares,
  equalLooks,
  flatShare,
  lumaOf,
  nextQuality,
  type LossyFormat,
  type Pixels,
  type QualityTry,
} from '../core/likeness/index.js';
import { standardQuality } from '../core/bytes/probe-plan.js';
import type { PictureContent } from '../core/likeness/index.js';
import type { PicturePrice, PricePoint } from '../core/run/index.js';
import { measureAnimation } from './animation.js';
import { decodeAt, encode, glanceAtPixels, reduceTo, type Recipe } from './encode.js';
import { Original } from './likeness.js';
import { measureVector } from './vector.js';

/** What is to be measured of one picture. Widths in px, each at most the picture's own. */
export interface MeasureOrder {
  format: string;
  width: number;
  height: number;
  frames: number;
  /** Quality of a JPEG file, if it could be read. */
  quality: number | null;
  lossless: boolean;
  palette: boolean;
  /** Whether any pixel lets the page through. */
  alpha: boolean;
  /** JPEG quality that stands for equal looks. */
  looks: number;
  widths: readonly number[];
  /** Formats to price at equal looks, beside the file's own; of photographs … */
  formats: readonly string[];
  /** … and of drawings, without loss. */
  drawingFormats: readonly string[];
}

export type Measured = Omit<PicturePrice, 'url'>;

/** Smaller sides than this are all container, and too small to be compared. */
const smallestSide = 16;

/**
 * Measures by real encodes what a picture weighs at several widths, at equal looks.
 * @throws {Error} when the picture does not decode, or an encoder takes too long
 */
export async function measurePicture(content: Buffer, order: MeasureOrder): Promise<Measured> {
  if (order.format === 'svg') return measureVector(content, order);
  if (order.frames > 1) return measureAnimation(content, order);
  const widths = [...new Set(order.widths)]
    .filter((width) => Math.min(width, (width * order.height) / order.width) >= smallestSide)
    .sort((a, b) => b - a);
  const largest = widths[0];
  const kind = await kindOf(content, order);
  const result: Measured = { content: kind, alike: [], formats: {}, notes: [] };
  if (largest === undefined) return result;
  let pixels = await decodeAt(content, largest, order.alpha);
  for (const width of widths) {
    pixels = await reduceTo(pixels, width);
    await measureWidth(pixels, order, kind, result);
  }
  result.alike.reverse();
  for (const points of Object.values(result.formats)) points.reverse();
  return result;
}

/** Losslessly stored pictures show their kind by equal neighbours, at their own size; others by how steep their edges are. */
async function kindOf(content: Buffer, order: MeasureOrder): Promise<PictureContent> {
  const pixels = await glanceAtPixels(content, order);
  if (order.lossless) return contentOf(flatShare(pixels));
  const { flat, steep } = edgeShares(lumaOf(pixels).luma, pixels.width);
  return flat >= drawing.flat && steep >= drawing.steep ? 'graphic' : 'photo';
}

/** A lossily stored picture is a drawing from these shares on; measured on drawn maps and on photographs, see docs/pricing.md. */
const drawing = { flat: 0.85, steep: 0.15 };

async function measureWidth(
  pixels: Pixels,
  order: MeasureOrder,
  kind: PictureContent,
  result: Measured,
): Promise<void> {
  const { width } = pixels;
  const original = new Original(pixels);
  const recipe = ownRecipe(order);
  if (recipe) {
    const encoded = await encode(pixels, recipe);
    result.alike.push({ width, bytes: encoded.length, quality: recipe.quality, decibels: null });
  }
  const add = (format: string, point: PricePoint) => (result.formats[format] ??= []).push(point);
  if (order.lossless && kind !== 'photo') await measureLossless(original, order, add);
  if (order.lossless && kind === 'graphic') return;
  const quality = standardQuality(order, width, order.looks);
  const standard = await encode(pixels, { format: 'jpeg', quality });
  const target = await original.decibels(standard);
  // What lossy formats make of drawings is not offered, so it need not be known.
  const wanted = new Set([order.format, ...(kind === 'graphic' ? [] : order.formats)]);
  // A JPEG has no transparency; it still sets the likeness that the others must reach.
  if (wanted.has('jpeg') && !order.alpha)
    add('jpeg', { width, bytes: standard.length, quality, decibels: round(target) });
  for (const format of ['webp', 'avif'] as const) {
    if (!wanted.has(format)) continue;
    const point = await search(original, format, target);
    const before = result.formats[format]?.at(-1);
    // Between graphic and photo both ways of storing are tried; the smaller one counts.
    if (before?.width !== width) add(format, point);
    else if (point.bytes < before.bytes) result.formats[format]?.splice(-1, 1, point);
  }
}

/** How the file itself was encoded, as far as it can be read from it. */
function ownRecipe({ format, quality, lossless, palette }: MeasureOrder): Recipe | undefined {
  if (format === 'jpeg') return { format, quality: quality ?? 73 };
  if (format === 'png') return { format, quality: null, palette };
  return format === 'webp' && lossless ? { format, quality: null } : undefined;
}

async function measureLossless(
  original: Original,
  order: MeasureOrder,
  add: (format: string, point: PricePoint) => void,
): Promise<void> {
  const { pixels } = original;
  const point = (encoded: Buffer): PricePoint => ({
    width: pixels.width,
    bytes: encoded.length,
    quality: null,
    decibels: null,
  });
  if (order.format === 'png') {
    const whole = await encode(pixels, { format: 'png', quality: null });
    const reduced = await encode(pixels, { format: 'png', quality: null, palette: true });
    const use = reduced.length < whole.length && (await original.looksTheSame(reduced)) ? reduced : whole;
    add('png', point(use));
  }
  if (order.drawingFormats.includes('webp') || order.format === 'webp')
    add('webp', point(await encode(pixels, { format: 'webp', quality: null })));
}

async function search(original: Original, format: LossyFormat, target: number): Promise<PricePoint> {
  const { pixels } = original;
  const tries: QualityTry[] = [];
  for (;;) {
    const quality = nextQuality(format, pixels.width, tries, target);
    if (quality === undefined) break;
    const encoded = await encode(pixels, { format, quality });
    tries.push({ quality, bytes: encoded.length, decibels: await original.decibels(encoded) });
  }
  const { quality, bytes, decibels } = equalLooks(format, pixels.width, tries, target);
  return { width: pixels.width, bytes, quality, decibels: round(decibels) };
}

const round = (value: number) => Math.round(value * 100) / 100;
