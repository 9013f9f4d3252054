import type { ImageFile, PicturePrice, PricePoint } from '../run/types.js';
import { byteCurve } from './byte-curve.js';
import { tellsItsSetting } from './own-setting.js';

/** What a file would weigh. */
export interface Price {
  bytes: number;
  quality: number | null;
  /** Of what is stored without loss: whether its colours are reduced to a palette first. */
  palette?: true;
  /** 0 when it was really encoded at this width; else how far the estimate may be off, as a share. */
  error: number;
}

/**
 * How far estimates may be off: between encodes of the same picture; beyond them, up to its own size; and where nothing of the picture
 * was encoded. The first two are the 95th percentiles that `npm run bench:errors` measures; see docs/pricing.md.
 */
export const estimateErrors = { between: 0.12, beyond: 0.2, farBeyond: 0.4, unmeasured: 0.5 } as const;

/** Farther from the nearest encode than this ratio of widths an estimate is far beyond. */
const far = 1.25;

/** Within this ratio two widths are the same for a price. */
const sameWidth = 1.005;

/** The measured prices of a site's pictures, and the estimates that follow from them. */
export class PriceList {
  constructor(
    readonly prices: ReadonlyMap<string, PicturePrice>,
    readonly files: ReadonlyMap<string, ImageFile>,
    /** Whether pictures of which nothing was encoded get an estimate from their file alone. */
    readonly guesses = true,
  ) {}

  contentOf(url: string): PicturePrice['content'] | undefined {
    return this.prices.get(url)?.content;
  }

  has(url: string): boolean {
    return this.prices.has(url);
  }

  /** Bytes of the file at another width, encoded as it is now. Width in device px. */
  alike(url: string, width: number): Price | undefined {
    const file = this.files.get(url);
    if (!file || file.problem !== undefined || file.width === 0) return undefined;
    const whole = pictureBytes(file);
    if (width >= file.width) return { bytes: whole, quality: file.quality, error: 0 };
    const price = this.prices.get(url);
    if (!price) {
      if (!this.guesses) return undefined;
      const guess = byteCurve([{ width: file.width, bytes: whole }]);
      return { bytes: Math.round(guess(width)), quality: file.quality, error: estimateErrors.unmeasured };
    }
    if (price.alike.length > 0) {
      // A graphic loses bytes by being stored at its very size: the curve must not run through that point.
      const own: PricePoint = { width: file.width, bytes: whole, quality: file.quality, decibels: null };
      const sharp = price.content === 'graphic' || (file.lossless && price.content === 'between');
      // Nor where smaller versions are made with another quality.
      const isOne = price.alike.every(
        ({ quality }) => quality === null || quality === (file.quality ?? quality),
      );
      const points = sharp || !isOne ? price.alike : [...price.alike, own];
      return priceAt(points, width);
    }
    // A file that does not tell its quality cannot be made again as it is, but so that it looks the same.
    return this.equalLooks(file.url, file.format, width);
  }

  /** Bytes of the picture at a width in the lightest of the ways in which it was measured: what it comes to when all is done. */
  lightest(url: string, width: number): number | undefined {
    const file = this.files.get(url);
    const others = Object.keys(this.prices.get(url)?.formats ?? {}).filter(
      (format) => format !== file?.format,
    );
    const ways = [
      file && this.#inProportion(file, width),
      ...others.map((format) => this.equalLooks(url, format, width)?.bytes),
    ].filter((bytes) => bytes !== undefined);
    return ways.length === 0 ? undefined : Math.min(...ways);
  }

  /** Of a file that does not tell its quality: as much heavier than a version that looks the same as it is at its own size. */
  #inProportion(file: ImageFile, width: number): number | undefined {
    const alike = this.alike(file.url, width)?.bytes;
    const same = this.equalLooks(file.url, file.format, file.width)?.bytes;
    const tells = file.lossless || tellsItsSetting(file) || width >= file.width;
    if (alike === undefined || same === undefined || tells) return alike;
    return alike * Math.max(1, pictureBytes(file) / same);
  }

  /** Bytes of the picture at a width in a format, looking like the file does at that width. Width in device px. */
  equalLooks(url: string, format: string, width: number): Price | undefined {
    const points = this.prices.get(url)?.formats[format];
    return points && points.length > 0 ? priceAt(points, width) : undefined;
  }
}

/** A file's bytes without what it carries beside the picture. */
export function pictureBytes({ bytes, metadata }: ImageFile): number {
  return Math.max(1, bytes - Object.values(metadata).reduce((sum, each) => sum + each, 0));
}

function priceAt(points: readonly PricePoint[], width: number): Price {
  const ratio = (point: PricePoint) => Math.max(point.width, width) / Math.min(point.width, width);
  const nearest = points.reduce((best, point) => (ratio(point) < ratio(best) ? point : best));
  const { quality } = nearest;
  const palette = nearest.palette ? { palette: nearest.palette } : {};
  if (ratio(nearest) <= sameWidth) return { bytes: nearest.bytes, quality, ...palette, error: 0 };
  const last = betweenLastAndOwn(points, width);
  if (last) return last;
  const curve = points.filter(isCompared);
  const between = curve.some((point) => point.width < width) && curve.some((point) => point.width > width);
  const single = curve.length === 1;
  return {
    bytes: Math.max(1, Math.round(byteCurve((curve.length > 0 ? curve : points).map(smooth))(width))),
    quality,
    ...palette,
    error: single
      ? estimateErrors.unmeasured
      : between
        ? estimateErrors.between
        : beyondError(ratio(nearest)),
  };
}

/**
 * Between the largest width that was compared and the file's own size, where both were encoded with one setting: that setting is the
 * one of the file that is made, whatever likeness it would reach.
 */
function betweenLastAndOwn(points: readonly PricePoint[], width: number): Price | undefined {
  const own = points.findLast(({ ownSize }) => ownSize === true);
  const [last] = points.filter(isCompared).sort((a, b) => b.width - a.width);
  if (!own || !last || width <= last.width || width >= own.width || last.quality !== own.quality)
    return undefined;
  const bytes = Math.max(1, Math.round(byteCurve([last, own])(width)));
  return { bytes, quality: own.quality, error: estimateErrors.between };
}

/** Of a file at its own size it is only known what it weighs, not how like it looks: no curve goes through there. */
const isCompared = ({ ownSize }: PricePoint) => ownSize !== true;

/** Whole steps of quality would bend the curve. */
const smooth = ({ width, bytes, atTarget = bytes }: PricePoint) => ({ width, bytes: atTarget });

const beyondError = (ratio: number) => (ratio > far ? estimateErrors.farBeyond : estimateErrors.beyond);

/** The price on which a claim is decided: the pessimistic side of an estimate. */
export function pessimistic({ bytes, error }: Price): number {
  return bytes * (1 + error);
}
