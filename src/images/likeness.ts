import {
  hasAlphaChannel,
  lumaOf,
  peakSignalToNoise,
  structuralSimilarity,
  toDecibels,
  worstPercentile,
  type LumaPicture,
  type Pixels,
} from '../core/likeness/index.js';
import { decodeBack } from './encode.js';

/** A picture to which encodes of it are compared; its brightness is computed once. */
export class Original {
  readonly #grounds: { ground: number; luma: LumaPicture }[];
  /** Brightness of the encode at hand. */
  readonly #scratch: Float32Array;

  constructor(readonly pixels: Pixels) {
    // Where a picture is transparent the page shows through: dark pages and light ones must look alike.
    const grounds = hasAlphaChannel(pixels) ? [0, 255] : [255];
    this.#scratch = new Float32Array(pixels.width * pixels.height);
    this.#grounds = grounds.map((ground) => ({ ground, luma: lumaOf(pixels, ground) }));
  }

  /** The grounds on which it is compared, as brightness. */
  get grounds(): number[] {
    return this.#grounds.map(({ ground }) => ground);
  }

  /**
   * Likeness of an encode in dB; of a transparent picture the lower of the two over black and over white.
   * @param encodes one that keeps the transparency, or one for each ground if the format cannot
   */
  async decibels(encodes: readonly Buffer[]): Promise<number> {
    const others = await Promise.all(
      encodes.map((encoded) => decodeBack(encoded, hasAlphaChannel(this.pixels))),
    );
    const found = this.#grounds.flatMap(({ ground, luma }, index) => {
      const other = others[index] ?? others[0];
      return other ? [toDecibels(structuralSimilarity(luma, lumaOf(other, ground, this.#scratch)).mean)] : [];
    });
    return Math.min(...found);
  }

  /** Whether a reduction to a palette cannot be seen: by all three measures, since fine lines are lost one by one. */
  async looksTheSame(encoded: Buffer): Promise<boolean> {
    const other = await decodeBack(encoded, hasAlphaChannel(this.pixels));
    if (peakSignalToNoise(this.pixels.data, other.data) < gate.decibels) return false;
    return this.#grounds.every(({ ground, luma }) => {
      const likeness = structuralSimilarity(luma, lumaOf(other, ground, this.#scratch));
      return likeness.mean >= gate.mean && worstPercentile(likeness) >= gate.worst;
    });
  }
}

const gate = { mean: 0.995, worst: 0.97, decibels: 45 };
