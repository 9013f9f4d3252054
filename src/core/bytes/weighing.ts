import type { ImageFile, PicturePrice } from '../run/types.js';
import { PriceList, type Price } from './price-list.js';
import type { TrifleLimits } from './trifles.js';

/** One width in one format. */
export interface WeighedVariant extends Price {
  /** Device px. */
  width: number;
  format: string;
  /** Likeness to the picture at this width, dB; null where nothing was lost or the bytes are an estimate. */
  decibels: number | null;
}

/** How a variant is stored: the encoder's quality, or how it does without one. */
export function settingInWords({ quality, palette }: Pick<WeighedVariant, 'quality' | 'palette'>): string {
  if (quality !== null) return String(Math.round(quality));
  return palette ? 'palette' : 'lossless';
}

/** What to serve at one width. */
export interface ShippedWidth {
  /** Device px. */
  width: number;
  best: WeighedVariant;
  /** For browsers that do not take the best format; absent where the best one is as old. */
  fallback?: WeighedVariant;
}

export interface Weighing {
  file: ImageFile;
  content: PicturePrice['content'];
  variants: WeighedVariant[];
  ship: ShippedWidth[];
  /** Whether no format is worthwhile smaller than the file at its own size; null where that was not weighed. */
  economical: boolean | null;
  notes: string[];
}

/** Formats that every browser takes. */
const oldFormats = new Set(['jpeg', 'png', 'gif', 'svg']);

/**
 * Lays out what a picture weighs at each width in each format that was measured, and chooses what to serve.
 * @param widths device px, each at most the picture's own
 */
export function weighPicture(
  file: ImageFile,
  price: PicturePrice,
  widths: readonly number[],
  { trifleBytes, trifleShare }: TrifleLimits,
): Weighing {
  const list = new PriceList(new Map([[file.url, price]]), new Map([[file.url, file]]));
  const variants = [...new Set(widths)]
    .sort((a, b) => a - b)
    .flatMap((width) =>
      Object.keys(price.formats)
        .sort()
        .flatMap((format) => variantAt(list, file, price, format, width) ?? []),
    );
  const ship = [...new Set(variants.map(({ width }) => width))].map((width) =>
    shipAt(
      width,
      variants.filter((variant) => variant.width === width),
    ),
  );
  const smallest = ship.find(({ width }) => width === file.width)?.best;
  const sure = smallest ? file.bytes - smallest.bytes * (1 + smallest.error) : 0;
  return {
    file,
    content: price.content,
    variants,
    ship,
    economical: smallest ? sure < trifleBytes || sure < file.bytes * trifleShare : null,
    notes: price.notes,
  };
}

function variantAt(
  prices: PriceList,
  { url }: ImageFile,
  { formats }: PicturePrice,
  format: string,
  width: number,
): WeighedVariant | undefined {
  const found = prices.equalLooks(url, format, width);
  const measured = formats[format]?.find((point) => point.width === width);
  return found && { width, format, ...found, decibels: measured?.decibels ?? null };
}

function shipAt(width: number, variants: readonly WeighedVariant[]): ShippedWidth {
  const sorted = [...variants].sort((a, b) => a.bytes - b.bytes || (a.format < b.format ? -1 : 1));
  const best = sorted[0] as WeighedVariant;
  const fallback = oldFormats.has(best.format)
    ? undefined
    : sorted.find(({ format }) => oldFormats.has(format));
  return { width, best, ...(fallback ? { fallback } : {}) };
}
