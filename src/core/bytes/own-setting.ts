import type { ImageFile } from '../run/types.js';

/**
 * Whether a file tells how it was encoded so exactly that other sizes can be encoded as it is, and itself once more with the same loss: a
 * JPEG does by its tables. What the quantisers of a WebP tell is near its quality, but not the whole of its setting.
 */
export const tellsItsSetting = ({ format, quality }: Pick<ImageFile, 'format' | 'quality'>): boolean =>
  format === 'jpeg' && quality !== null;
