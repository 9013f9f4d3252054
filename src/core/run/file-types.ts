export type AlphaUse = 'none' | 'unused' | 'used';

export interface ImageFile {
  url: string;
  /** `jpeg`, `png`, `gif`, `webp`, `avif`, `svg`, `ico`, `bmp` or `unknown`. */
  format: string;
  /** Pixel size with the orientation applied; 0 when the file cannot be read. */
  width: number;
  height: number;
  bytes: number;
  animated: boolean;
  /** Pictures of the animation; 1 for a still picture. */
  frames: number;
  /** In the decoder's words: `srgb`, `cmyk`, `b-w`, …; empty when unknown. */
  colourSpace: string;
  /** Bits per channel; 0 when unknown. */
  bitDepth: number;
  alpha: AlphaUse;
  /** Whether the format keeps every pixel as it was. */
  lossless: boolean;
  /** Whether the colours are indexes into a palette. */
  palette: boolean;
  /** Of a JPEG and a WebP with losses, on the usual scale of its format to 100, read from what they are quantised with. */
  quality: number | null;
  /** Whether notes beside the picture say that it is to be turned or mirrored. */
  turned: boolean;
  /** Whether bytes are missing at its end. */
  truncated: boolean;
  /** Bytes beside the picture itself, by kind. */
  metadata: Record<string, number>;
  /** Bytes of the pictures that a drawing holds as text. */
  embedded: number;
  /** SHA-256 of the content, hexadecimal. */
  hash: string;
  /** Why the file could not be read, if so. */
  problem?: string;
}

/** One size of a picture in one format. */
export interface PricePoint {
  /** Device px. */
  width: number;
  /** Of a real encode with this setting. */
  bytes: number;
  /**
   * Bytes between the encodes around the likeness that was to be reached, where whole qualities lie beside it: what estimates at other
   * widths are made from.
   */
  atTarget?: number;
  /** Of a lossy file at its own size, or near it: encoded with the quality of a smaller version, and compared with nothing. */
  ownSize?: boolean;
  /** The encoder's setting; null for lossless ones. */
  quality: number | null;
  /** Whether the colours were reduced to a palette before they were stored without loss. */
  palette?: true;
  /** Likeness to the picture at this width, dB; null where nothing was lost or nothing was compared. */
  decibels: number | null;
}

/** What a picture weighs at other widths and in other formats, by real encodes. */
export interface PicturePrice {
  url: string;
  /** Judged from its pixels; `between` also where it cannot be told. */
  content: 'photo' | 'graphic' | 'between';
  /** Encoded as the file itself is: its format and quality. Empty where the quality cannot be read from the file. */
  alike: PricePoint[];
  /** By format: encoded so that it looks like the file does at that width. */
  formats: Record<string, PricePoint[]>;
  /** Said of the measurement, for instance that only the first pictures of an animation were encoded. */
  notes: string[];
}
