import { PriceList } from '../../src/core/bytes/price-list.js';
import { KeptValues } from '../../dist/src/cache/index.js';
import { measureOrder, MeasuredCache, Measurer, readImageFacts } from '../../dist/src/images/index.js';
import type { DrawnPicture } from './varied-pictures.js';

export interface PriceError {
  name: string;
  format: string;
  /** Device px. */
  width: number;
  estimated: number;
  real: number;
  /** (estimated − real) / real */
  error: number;
}

/**
 * Compares estimates with real encodes at equal looks. The picture is probed at some widths; at others its price is estimated from
 * these, and then really encoded.
 * @param probes widths in device px
 * @param between widths in device px that are not probed
 */
export async function priceErrors(
  pictures: readonly DrawnPicture[],
  probes: readonly number[],
  between: readonly number[],
  formats: readonly string[],
): Promise<PriceError[]> {
  const measurer = new Measurer(new MeasuredCache(new KeptValues(undefined)));
  try {
    const found = await Promise.all(
      pictures.map(async ({ name, content }) => {
        const file = await readImageFacts(`/${name}`, content);
        const measure = (widths: readonly number[]) =>
          measurer.measure(
            file.hash,
            measureOrder(file, { widths, looks: 73, formats, drawings: ['webp'] }),
            () => Promise.resolve(content),
          );
        const [probed, real] = await Promise.all([measure(probes), measure(between)]);
        const list = new PriceList(
          new Map([[file.url, { url: file.url, ...probed }]]),
          new Map([[file.url, file]]),
        );
        return Object.entries(real.formats).flatMap(([format, points]) =>
          points.map((point): PriceError => {
            const estimated = list.equalLooks(file.url, format, point.width)?.bytes ?? 0;
            const error = (estimated - point.bytes) / point.bytes;
            return { name, format, width: point.width, estimated, real: point.bytes, error };
          }),
        );
      }),
    );
    return found.flat();
  } finally {
    await measurer.close();
  }
}

/**
 * Compares what is estimated for a file at its own size, from encodes at half and at nine tenths of it, with a real encode of the picture
 * as it was before it was stored with loss.
 * @param width the pictures' own, device px
 */
export async function sameSizeErrors(
  pictures: readonly DrawnPicture[],
  width: number,
  formats: readonly string[],
): Promise<PriceError[]> {
  const measurer = new Measurer(new MeasuredCache(new KeptValues(undefined)));
  const ask = async (name: string, content: Buffer, widths: readonly number[]) => {
    const file = await readImageFacts(`/${name}`, content);
    const order = measureOrder(file, { widths, looks: 73, formats, drawings: [] });
    return { file, measured: await measurer.measure(file.hash, order, () => Promise.resolve(content)) };
  };
  try {
    const found = await Promise.all(
      pictures.map(async ({ name, content, lossless = content }) => {
        const [{ file, measured }, truth] = await Promise.all([
          ask(name, content, [Math.round(width / 2), Math.round(width * 0.9)]),
          ask(name, lossless, [width]),
        ]);
        const list = new PriceList(
          new Map([[file.url, { url: file.url, ...measured }]]),
          new Map([[file.url, file]]),
        );
        return formats.flatMap((format): PriceError[] => {
          const real = truth.measured.formats[format]?.[0]?.bytes;
          const estimated = list.equalLooks(file.url, format, width)?.bytes;
          return real === undefined || estimated === undefined
            ? []
            : [{ name, format, width, estimated, real, error: (estimated - real) / real }];
        });
      }),
    );
    return found.flat();
  } finally {
    await measurer.close();
  }
}

/** The value below which a share of the errors lies, whatever their sign. */
export function quantile(errors: readonly PriceError[], share: number): number {
  const sizes = errors.map(({ error }) => Math.abs(error)).sort((a, b) => a - b);
  return sizes[Math.min(sizes.length - 1, Math.floor(share * sizes.length))] ?? 0;
}
