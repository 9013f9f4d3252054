import type { PricePoint } from '../core/run/index.js';
import { encode as encodeHere } from './encode.js';
import { readImageFacts } from './facts.js';
import { measurePicture } from './measure.js';
import type { Measured, MeasureOrder } from './measure-order.js';

/** What is asked of a host that resizes by address. */
export interface HostAsk {
  /** Device px. */
  width: number;
  /** As the file has it if left out. */
  format?: string;
  quality?: number;
}

/** What is known of a host. */
export interface MeasuredHost {
  /**
   * The picture as the host gives it.
   * @throws {Error} when it gives none
   */
  ask(wish: HostAsk): Promise<Buffer>;
  /** Whether a quality can be asked for, … */
  hasQuality: boolean;
  /** … and a format. */
  hasFormat: boolean;
}

const lossy = new Set(['jpeg', 'webp', 'avif']);
/** What a host gives at this quality stands for the picture itself: of the very pixels that its lighter versions are made from. */
const whole = 100;

/**
 * Measures what a picture weighs at several widths as its host makes it: the host stands in the place of the encoder, and is asked for two or
 * three qualities until one looks the same. Of a host without a choice of quality it is only known what it gives.
 * @throws {Error} when a version does not decode, or the host gives none
 */
export async function measureAtHost(order: MeasureOrder, host: MeasuredHost): Promise<Measured> {
  const result: Measured = { content: 'photo', alike: [], formats: {}, notes: [] };
  for (const width of [...new Set(order.widths)].sort((a, b) => a - b)) {
    result.alike.push(pointOf(width, await host.ask({ width })));
    if (host.hasQuality) await measureLooks(width, order, host, result);
    else
      for (const format of order.formats)
        add(result, format, pointOf(width, await host.ask({ width, format })));
  }
  return result;
}

const pointOf = (width: number, { length }: Buffer): PricePoint => ({
  width,
  bytes: length,
  quality: null,
  decibels: null,
});

function add({ formats }: Measured, format: string, point: PricePoint): void {
  (formats[format] ??= []).push(point);
}

async function measureLooks(
  width: number,
  order: MeasureOrder,
  host: MeasuredHost,
  result: Measured,
): Promise<void> {
  const plain = host.hasFormat && !order.alpha ? { format: 'jpeg' } : {};
  const content = await host.ask({ width, quality: whole, ...plain });
  const { height } = await readImageFacts('', content);
  const here = { ...order, width, height, widths: [width], quality: null, lossless: false, ownSize: false };
  const encode: typeof encodeHere = (pixels, { format, quality, ...more }, options) =>
    // What sets the likeness to reach is made here, as for every other picture.
    format === 'jpeg' || quality === null || !lossy.has(format)
      ? encodeHere(pixels, { format, quality, ...more }, options)
      : host.ask({ width, quality, ...inFormat(format, order) });
  const measured = await measurePicture(content, here, encode, false);
  if (width === Math.max(...order.widths)) result.content = measured.content;
  for (const [format, points] of Object.entries(measured.formats)) {
    const [point] = points;
    if (!point || point.quality === null || !lossy.has(format)) continue;
    // Of a JPEG the bytes are those of the one that was made here.
    const { length } = await host.ask({ width, quality: point.quality, ...inFormat(format, order) });
    add(result, format, { width, bytes: length, quality: point.quality, decibels: point.decibels });
  }
}

/** The format in which the file is given already need not be named. */
const inFormat = (format: string, order: MeasureOrder) => (format === order.format ? {} : { format });
