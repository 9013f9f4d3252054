import sharp, { type Sharp } from 'sharp';
import type { Dice } from '../generated-site.js';
import { cutOut, pictureOfKind } from '../picture-kinds.js';

/** Files of a site, by path. */
export type SiteFiles = Record<string, string | Buffer>;

export interface Master {
  width: number;
  height: number;
  /** The picture without loss. */
  pixels: Buffer;
}

/** Pictures of one site: painted once, cut, scaled and stored as its build would. */
export class PictureBox {
  readonly files: SiteFiles = {};

  constructor(readonly dice: Dice) {}

  /** A photograph, no two alike. Sizes in px. */
  async photograph(width: number, height: number): Promise<Master> {
    const { content } = await pictureOfKind('photograph', this.dice.between(1, 100_000));
    return this.#master(sharp(content).resize(width, height, { fit: 'cover' }));
  }

  async drawing(width: number, height: number): Promise<Master> {
    const { content } = await pictureOfKind('drawing', this.dice.between(1, 100_000));
    return this.#master(sharp(content).resize(width, height, { fit: 'cover', kernel: 'nearest' }));
  }

  async cutOut(width: number, height: number): Promise<Master> {
    const kind = this.dice.of(['portrait', 'shadow', 'panel'] as const);
    return this.#master(await cutOut(kind, this.dice.between(1, 100_000), width, height));
  }

  async #master(picture: Sharp): Promise<Master> {
    const { data, info } = await picture.png({ compressionLevel: 1 }).toBuffer({ resolveWithObject: true });
    return { width: info.width, height: info.height, pixels: data };
  }

  /**
   * Stores a picture, scaled to a width and cut to a ratio if one is given; the ending of the path is the format.
   * @returns the height of the file, px
   */
  async store(
    path: string,
    { pixels, width, height }: Master,
    size = width,
    ratio?: number,
  ): Promise<number> {
    const wanted = Math.round(ratio === undefined ? (size * height) / width : size / ratio);
    const picture = sharp(pixels).resize(size, wanted, { fit: 'cover' });
    this.files[path] = await this.#encode(picture, path.slice(path.lastIndexOf('.') + 1));
    return wanted;
  }

  #encode(picture: Sharp, format: string): Promise<Buffer> {
    const { dice } = this;
    switch (format) {
      case 'jpg':
        return picture.jpeg({ quality: dice.of([74, 82, 90, 95]), progressive: dice.chance(0.5) }).toBuffer();
      case 'webp':
        return picture.webp({ quality: dice.of([75, 82, 92]) }).toBuffer();
      case 'avif':
        return picture.avif({ quality: dice.of([50, 60]), effort: 2 }).toBuffer();
      default:
        return picture.png().toBuffer();
    }
  }
}

const syllables = [
  'ka',
  'lo',
  'mir',
  'ten',
  'ova',
  'su',
  'rel',
  'dan',
  'pi',
  'quo',
  'bex',
  'ani',
  'tor',
  'hul',
];

/** A made-up word. */
export const word = (dice: Dice): string =>
  Array.from({ length: dice.between(2, 4) }, () => dice.of(syllables)).join('');

/** A paragraph of made-up words. */
export const prose = (dice: Dice, words: number): string =>
  `<p>${Array.from({ length: words }, () => word(dice)).join(' ')}.</p>`;
