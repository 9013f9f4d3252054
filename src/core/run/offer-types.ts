/** What could stand in for a picture while it is awaited. */
export interface Placeholder {
  /** The main colour, as CSS writes it. */
  colour: string;
  /** A gradient through the picture's colours, as CSS writes it. */
  gradient: string;
  /** A tiny copy as a data URL of at most 400 bytes; null where none is so small. */
  inlined: string | null;
}

/** A part of a picture, device px. */
export interface Crop {
  x: number;
  y: number;
  width: number;
  height: number;
  /** The whole picture. */
  of: { width: number; height: number };
}

/** A crop with the files in which it may be offered. */
export interface OfferedCrop extends Crop {
  files: CropFile[];
}

/** A file that shows a crop and was made once to be measured. */
export interface CropFile {
  /** Device px; its height follows the crop's shape. */
  width: number;
  format: string;
  bytes: number;
  /** Null where it is stored without loss. */
  quality: number | null;
  /** Likeness to the crop that it reaches, dB; null where nothing is lost. */
  decibels: number | null;
}

/** One picture that holds many small ones. */
export interface IconSheet {
  /** Device px. */
  width: number;
  height: number;
  /** Of the sheet as a PNG. */
  bytes: number;
  places: { url: string; x: number; y: number; width: number; height: number }[];
}
