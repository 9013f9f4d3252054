import type { KnownSetting } from '../core/pricing/estimated-files.js';
import type { ImageFile, PicturePrice } from '../core/run/index.js';

/** What is to be measured of one picture. Widths in px, each at most the picture's own. */
export interface MeasureOrder {
  format: string;
  width: number;
  height: number;
  frames: number;
  /** Quality of a JPEG file, if it could be read. */
  quality: number | null;
  /** Quality of smaller versions of a JPEG, where they have another than the file; its own if left out. */
  resizedQuality?: number;
  lossless: boolean;
  palette: boolean;
  /** Whether any pixel lets the page through. */
  alpha: boolean;
  /** JPEG quality that stands for equal looks. */
  looks: number;
  widths: readonly number[];
  /** Whether the price at the picture's own size is wanted too, of one that is stored with loss: by the quality of the widest of the widths. */
  ownSize: boolean;
  /** Formats to price at equal looks, beside the file's own; of photographs … */
  formats: readonly string[];
  /** … and of drawings, without loss. */
  drawingFormats: readonly string[];
  /** Encodes with settings that are known, compared with nothing; none if left out. */
  settings?: readonly KnownSetting[];
}

/** What was measured of a picture, whatever its address. */
export type Measured = Omit<PicturePrice, 'url'>;

export interface MeasureWish {
  widths: readonly number[];
  /** JPEG quality that stands for equal looks. */
  looks: number;
  /** Formats to price beside the file's own. */
  formats: readonly string[];
  /** Formats that drawings may have. */
  drawings: readonly string[];
  ownSize?: boolean;
  settings?: readonly KnownSetting[];
  /** Quality of smaller versions of a JPEG; the file's own if left out. */
  resizedQuality?: number | undefined;
}

/** An order for a file as it is. */
export function measureOrder(
  file: ImageFile,
  { widths, looks, formats, drawings, ownSize = false, settings = [], resizedQuality }: MeasureWish,
): MeasureOrder {
  const { format, width, height, frames, quality, lossless, palette, alpha } = file;
  return {
    format,
    width,
    height,
    frames,
    quality,
    lossless,
    palette,
    alpha: alpha === 'used',
    looks,
    widths,
    ownSize: ownSize && !lossless,
    formats: [...new Set(formats)].sort(),
    drawingFormats: drawings.filter((each) => each === 'webp'),
    ...(settings.length > 0 ? { settings } : {}),
    ...(resizedQuality === undefined || resizedQuality === quality ? {} : { resizedQuality }),
  };
}

/** The plainest lossy format that can hold a picture: JPEG has no transparency. */
export const plainFormat = ({ alpha }: Pick<ImageFile, 'alpha'>) => (alpha === 'used' ? 'webp' : 'jpeg');
