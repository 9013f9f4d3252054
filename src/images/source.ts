import sharp from 'sharp';
import type { Pixels } from '../core/likeness/index.js';
import { decodeAt, reducePixels } from './encode.js';
import { isBitmap } from './open.js';

/** Larger pictures are decoded anew for each width, px: whole they would take more memory than the time is worth. */
const mostKept = 16_000_000;

/** From about four times on, a JPEG is decoded at a half or less: that is quick, and gives slightly other pixels. */
const wholeJpeg = 3.9;

/** A picture file of which several widths are wanted. It is decoded once where the pixels come out the same. */
export class Source {
  #kind: Promise<{ keeps: boolean; width: number; reduces: boolean }> | undefined;
  #whole: Promise<Pixels> | undefined;

  constructor(
    readonly content: Buffer,
    readonly keepAlpha: boolean,
  ) {}

  /**
   * Its pixels as `decodeAt` gives them, bit for bit. Width in px, at most the picture's own.
   * @throws {Error} when it does not decode
   */
  async at(width: number): Promise<Pixels> {
    const { keeps, width: own, reduces } = await (this.#kind ??= this.#look());
    if (!keeps || (reduces && own / width > wholeJpeg)) return decodeAt(this.content, width, this.keepAlpha);
    return reducePixels(await (this.#whole ??= decodeAt(this.content, own, this.keepAlpha)), width);
  }

  /** Other colours than sRGB, and more bits, are turned into it only after the picture was made smaller. */
  async #look() {
    if (isBitmap(this.content)) return { keeps: false, width: 0, reduces: false };
    const { format, depth, space, icc, autoOrient } = await sharp(this.content).metadata();
    const { width, height } = autoOrient;
    const plain = depth === 'uchar' && space === 'srgb' && icc === undefined;
    return { keeps: plain && width * height <= mostKept, width, reduces: format === 'jpeg' };
  }
}
