/** Deterministic noise: the same seed gives the same picture on every machine. */

const size = 512;
const mask = size - 1;

/** A small random number generator (xorshift32); values from 0 to 1. */
export function randomFrom(seed: number): () => number {
  let state = (Math.imul(seed, 0x9e3779b1) ^ 0x5bd1e995) | 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 4294967296;
  };
}

/** A tile of fractal value noise that repeats every 512 pixels; values from 0 to 1. */
export class NoiseTile {
  readonly values: Float32Array;

  constructor(seed: number, octaves = 6) {
    this.values = new Float32Array(size * size);
    const random = randomFrom(seed);
    let amplitude = 0.5;
    let total = 0;
    for (let octave = 0, cells = 4; octave < octaves; octave++, cells *= 2, amplitude *= 0.55) {
      this.#addOctave(cells, amplitude, random);
      total += amplitude;
    }
    for (let index = 0; index < this.values.length; index++)
      this.values[index] = (this.values[index] ?? 0) / total;
  }

  #addOctave(cells: number, amplitude: number, random: () => number): void {
    const grid = Float32Array.from({ length: cells * cells }, random);
    const step = size / cells;
    for (let y = 0; y < size; y++) {
      const gy = Math.floor(y / step);
      const fy = smooth((y - gy * step) / step);
      const row = gy * cells;
      const below = ((gy + 1) % cells) * cells;
      for (let x = 0; x < size; x++) {
        const gx = Math.floor(x / step);
        const fx = smooth((x - gx * step) / step);
        const right = (gx + 1) % cells;
        const top = mix(grid[row + gx] ?? 0, grid[row + right] ?? 0, fx);
        const bottom = mix(grid[below + gx] ?? 0, grid[below + right] ?? 0, fx);
        this.values[y * size + x] = (this.values[y * size + x] ?? 0) + amplitude * mix(top, bottom, fy);
      }
    }
  }

  /** Nearest value; coordinates in tile pixels, wrapping around. */
  near(x: number, y: number): number {
    return this.values[((y & mask) << 9) | (x & mask)] ?? 0;
  }

  /** Value between the four nearest. */
  at(x: number, y: number): number {
    const x0 = Math.floor(x);
    const y0 = Math.floor(y);
    const fx = x - x0;
    const top = mix(this.near(x0, y0), this.near(x0 + 1, y0), fx);
    const bottom = mix(this.near(x0, y0 + 1), this.near(x0 + 1, y0 + 1), fx);
    return mix(top, bottom, y - y0);
  }
}

export const mix = (a: number, b: number, part: number) => a + (b - a) * part;
const smooth = (value: number) => value * value * (3 - 2 * value);
