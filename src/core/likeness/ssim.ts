/** Brightness of every pixel, row by row, 0 to 255. */
export interface LumaPicture {
  width: number;
  height: number;
  luma: Float32Array | Uint8Array;
}

export interface Likeness {
  /** Mean of the structural similarity over all windows, at most 1. */
  mean: number;
  /** Of each window, in no order. */
  windows: Float32Array;
}

const window = 8;
const stride = 4;
/** Wang, Bovik, Sheikh and Simoncelli, "Image quality assessment", IEEE TIP 13 (2004), section III: K1 0.01, K2 0.03, L 255. */
const c1 = (0.01 * 255) ** 2;
const c2 = (0.03 * 255) ** 2;

/**
 * Structural similarity of two pictures of one size, in boxes of 8 × 8 pixels that overlap by half.
 * @throws {RangeError} when the sizes differ, or a side is under 8 px
 */
export function structuralSimilarity(a: LumaPicture, b: LumaPicture): Likeness {
  if (a.width !== b.width || a.height !== b.height)
    throw new RangeError(`Sizes differ: ${a.width}×${a.height} and ${b.width}×${b.height}.`);
  if (a.width < window || a.height < window)
    throw new RangeError(`A picture of ${a.width}×${a.height} px is too small to compare.`);
  const columns = Math.floor(a.width / stride);
  const rows = Math.floor(a.height / stride);
  let above = new Float64Array(columns * sums);
  let below = new Float64Array(columns * sums);
  sumCells(a, b, 0, above);
  const windows = new Float32Array((columns - 1) * (rows - 1));
  let count = 0;
  let total = 0;
  for (let row = 1; row < rows; row++) {
    sumCells(a, b, row, below);
    for (let column = 0; column + 1 < columns; column++) {
      const value = similarityAt(above, below, column * sums);
      windows[count++] = value;
      total += value;
    }
    [above, below] = [below, above];
  }
  return { mean: total / count, windows };
}

/** The similarity of the window at the first percentile: what the worst spots look like. */
export function worstPercentile({ windows }: Likeness): number {
  return Float32Array.from(windows).sort()[Math.floor(windows.length / 100)] ?? 1;
}

/** Sums per cell: Σa, Σb, Σa², Σb², Σab. */
const sums = 5;

/** Sums over the cells of 4 × 4 pixels of one row of cells: four neighbours make a window. */
function sumCells(a: LumaPicture, b: LumaPicture, row: number, cells: Float64Array): void {
  const { width, luma } = a;
  const other = b.luma;
  const first = row * stride * width;
  for (let at = 0, left = first; at < cells.length; at += sums, left += stride) {
    let sumA = 0;
    let sumB = 0;
    let squaresA = 0;
    let squaresB = 0;
    let products = 0;
    for (let line = 0, from = left; line < stride; line++, from += width)
      for (let index = from; index < from + stride; index++) {
        const p = luma[index] ?? 0;
        const q = other[index] ?? 0;
        sumA += p;
        sumB += q;
        squaresA += p * p;
        squaresB += q * q;
        products += p * q;
      }
    cells[at] = sumA;
    cells[at + 1] = sumB;
    cells[at + 2] = squaresA;
    cells[at + 3] = squaresB;
    cells[at + 4] = products;
  }
}

const size = window * window;

function similarityAt(above: Float64Array, below: Float64Array, at: number): number {
  const next = at + sums;
  const meanA = fourth(above, below, at, next) / size;
  const meanB = fourth(above, below, at + 1, next + 1) / size;
  const varianceA = fourth(above, below, at + 2, next + 2) / size - meanA * meanA;
  const varianceB = fourth(above, below, at + 3, next + 3) / size - meanB * meanB;
  const covariance = fourth(above, below, at + 4, next + 4) / size - meanA * meanB;
  return (
    ((2 * meanA * meanB + c1) * (2 * covariance + c2)) /
    ((meanA * meanA + meanB * meanB + c1) * (varianceA + varianceB + c2))
  );
}

/** One sum over the four cells of a window. */
function fourth(above: Float64Array, below: Float64Array, left: number, right: number): number {
  return (above[left] ?? 0) + (above[right] ?? 0) + (below[left] ?? 0) + (below[right] ?? 0);
}

/** Likeness in dB: −10·log10(1 − similarity), so that equal steps look about equally large. Capped at 60 dB. */
export function toDecibels(similarity: number): number {
  return -10 * Math.log10(Math.max(1e-6, 1 - similarity));
}
