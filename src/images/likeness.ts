import {
  chromaOf,
  colourSimilarity,
  hasAlphaChannel,
  lumaOf,
  peakSignalToNoise,
  structuralSimilarity,
  toDecibels,
  worstPercentile,
  type ChromaMemory,
  type ChromaPicture,
  type LumaPicture,
  type Pixels,
} from '../core/likeness/index.js';
import { decodeBack } from './encode.js';

/** Smaller sides than this are all container, and too small to be compared: colours are stored at half the size. Device px. */
const smallestSide = 16;

/** Whether encodes of a picture can be compared with it. */
export const canCompare = ({ width, height }: { width: number; height: number }) =>
  Math.min(width, height) >= smallestSide;

/** A picture to which encodes of it are compared; its brightness and colours are computed once. */
export class Original {
  readonly #grounds: { ground: number; luma: LumaPicture }[];
  readonly #chroma: ChromaPicture | undefined;
  /** Brightness and colours of the encode at hand. */
  readonly #scratch: Float32Array;
  readonly #chromaScratch: ChromaMemory;

  constructor(readonly pixels: Pixels) {
    // Where a picture is transparent the page shows through: dark pages and light ones must look alike.
    const grounds = hasAlphaChannel(pixels) ? [0, 255] : [255];
    this.#scratch = new Float32Array(pixels.width * pixels.height);
    const quarter = Math.floor(pixels.width / 2) * Math.floor(pixels.height / 2);
    this.#chromaScratch = { blue: new Float32Array(quarter), red: new Float32Array(quarter) };
    this.#chroma = chromaOf(pixels);
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
      if (!other) return [];
      const brightness = structuralSimilarity(luma, lumaOf(other, ground, this.#scratch)).mean;
      return [toDecibels(colourSimilarity(brightness, ...this.#colours(other)))];
    });
    return Math.min(...found);
  }

  /** Similarity of the two colour differences; 1 where there is no colour. */
  #colours(other: Pixels): [blue: number, red: number] {
    const [own, theirs] = [this.#chroma, chromaOf(other, this.#chromaScratch)];
    if (!own || !theirs) return [1, 1];
    return [structuralSimilarity(own.blue, theirs.blue).mean, structuralSimilarity(own.red, theirs.red).mean];
  }

  /** Whether a reduction to a palette cannot be seen: by all three measures, since fine lines are lost one by one. */
  async looksTheSame(encoded: Buffer): Promise<boolean> {
    if (!canCompare(this.pixels)) return false;
    const other = await decodeBack(encoded, hasAlphaChannel(this.pixels));
    if (peakSignalToNoise(this.pixels.data, other.data) < gate.decibels) return false;
    return this.#grounds.every(({ ground, luma }) => {
      const likeness = structuralSimilarity(luma, lumaOf(other, ground, this.#scratch));
      return likeness.mean >= gate.mean && worstPercentile(likeness) >= gate.worst;
    });
  }
}

const gate = { mean: 0.995, worst: 0.97, decibels: 45 };
