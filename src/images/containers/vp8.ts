/** RFC 6386, section 7.3: the decoder of booleans that come with a probability each. */
class BooleanReader {
  #value: number;
  #at: number;
  #range = 255;
  #shifted = 0;

  constructor(
    private readonly data: Buffer,
    from: number,
  ) {
    this.#value = data.readUInt16BE(from);
    this.#at = from + 2;
  }

  /** @param probability that it is 0, in 256ths */
  #next(probability: number): 0 | 1 {
    const split = 1 + (((this.#range - 1) * probability) >> 8);
    const isOne = this.#value >= split << 8;
    if (isOne) {
      this.#range -= split;
      this.#value -= split << 8;
    } else this.#range = split;
    while (this.#range < 128) {
      this.#value <<= 1;
      this.#range <<= 1;
      if (++this.#shifted === 8) {
        this.#shifted = 0;
        this.#value |= this.data[this.#at++] ?? 0;
      }
    }
    return isOne ? 1 : 0;
  }

  flag(): boolean {
    return this.#next(128) === 1;
  }

  /** A whole number of so many bits, the highest first. */
  number(bits: number): number {
    let value = 0;
    for (let bit = 0; bit < bits; bit++) value = value * 2 + this.#next(128);
    return value;
  }

  /** The same with a sign behind it, where a flag says that it is there. */
  optional(bits: number): number | undefined {
    if (!this.flag()) return undefined;
    const value = this.number(bits);
    return this.flag() ? -value : value;
  }
}

/** Bytes of a key frame before its header: the tag, the start code and the size (RFC 6386, section 9.1). */
const beforeHeader = 10;
const startCode = 0x9d012a;
const coarsest = 127;

/**
 * The quantiser index of a key frame, 0 (finest) to 127: of its four segments, if it has such, the mean over the picture (RFC 6386, sections
 * 9.3 and 9.6).
 * @param frame what a `VP8 ` chunk holds
 * @returns undefined where it is no key frame
 * @throws {RangeError} when it ends too early
 */
export function vp8Quantiser(frame: Buffer): number | undefined {
  const isKeyFrame = (frame.readUInt8(0) & 1) === 0;
  if (!isKeyFrame || frame.readUIntBE(3, 3) !== startCode) return undefined;
  const reader = new BooleanReader(frame, beforeHeader);
  // The colour space, and whether values must be clamped.
  reader.number(2);
  let absolute = false;
  let segments: (number | undefined)[] = [];
  /** How often a macroblock is of the first two segments, of the first of these, and of the third among the others, in 255ths. */
  let [early, first, third] = [255, 255, 255];
  if (reader.flag()) {
    const hasMap = reader.flag();
    if (reader.flag()) {
      absolute = reader.flag();
      segments = Array.from({ length: 4 }, () => reader.optional(7));
      // The strengths of the loop filter.
      for (let segment = 0; segment < 4; segment++) reader.optional(6);
    }
    const probability = () => (reader.flag() ? reader.number(8) : 255);
    if (hasMap) [early, first, third] = [probability(), probability(), probability()];
  }
  // The kind, level and sharpness of the loop filter, and how it differs by macroblock.
  reader.number(1 + 6 + 3);
  if (reader.flag() && reader.flag()) for (let delta = 0; delta < 8; delta++) reader.optional(6);
  // The number of partitions.
  reader.number(2);
  const base = reader.number(7);
  const [a = 0, b = 0, c = 0, d = 0] = segments.map((value = 0) =>
    Math.min(coarsest, Math.max(0, absolute ? value : base + value)),
  );
  if (segments.length === 0) return base;
  const mean = (share: number, one: number, other: number) => (share * one + (255 - share) * other) / 255;
  return mean(early, mean(first, a, b), mean(third, c, d));
}
