import type { ImageFile } from '../core/run/index.js';
import { plainFormat } from '../images/index.js';

/** The newest format that is newer than the file's own, and for a losslessly stored photograph the plain one. */
export function formatsFor(file: ImageFile, wished: readonly string[]): string[] {
  const { format, lossless } = file;
  const newer = wished.includes(format) ? wished.slice(0, wished.indexOf(format)) : wished;
  const wrong = lossless && format !== 'svg' && file.frames === 1;
  return [...newer.slice(0, 1), ...(wrong ? [plainFormat(file)] : [])];
}
