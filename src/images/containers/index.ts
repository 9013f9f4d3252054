import { readAvif } from './avif.js';
import { readGif } from './gif.js';
import { readJpeg } from './jpeg.js';
import { readPng } from './png.js';
import { readWebp } from './webp.js';
import type { MetadataBytes } from './segments.js';

export { renameKind, type MetadataBytes, type MetadataKind } from './segments.js';

/** What the containers tell beyond what decoders tell. */
export interface ContainerParts {
  metadata: MetadataBytes;
  /** Of a JPEG or a WebP with losses, on the usual scale of its format; else null. */
  quality: number | null;
  lossless: boolean;
  palette: boolean;
  frames: number;
  /** Whether bytes are missing at the end: a transfer or a copy that broke off. */
  truncated: boolean;
}

/** Walks over a file's segments. Never throws: a broken file gives what was found. */
export function readContainer(format: string, content: Buffer): ContainerParts {
  const parts: ContainerParts = {
    metadata: {},
    quality: null,
    lossless: false,
    palette: false,
    frames: 1,
    truncated: false,
  };
  try {
    switch (format) {
      case 'jpeg':
        return { ...parts, ...readJpeg(content) };
      case 'png':
        return { ...parts, ...readPng(content), lossless: true };
      case 'gif':
        return { ...parts, ...readGif(content), lossless: true, palette: true };
      case 'webp':
        return { ...parts, ...readWebp(content) };
      case 'avif':
        return { ...parts, ...readAvif(content) };
      default:
        return parts;
    }
  } catch (cause) {
    // Read beyond the end.
    if (cause instanceof RangeError) return { ...parts, truncated: true };
    throw cause;
  }
}
