import type { Rectangle } from '../layout/rectangle.js';
import type { LumaPicture } from './ssim.js';

/**
 * The part of a picture in which most happens: of all parts of a size the one with the largest sum of brightness steps between
 * neighbours, the one nearest to the upper left of equal ones. Sizes in px; a part larger than the picture is cut to it.
 */
export function busiestRegion(
  { luma, width, height }: LumaPicture,
  wanted: { width: number; height: number },
): Rectangle {
  const part = { width: Math.min(wanted.width, width), height: Math.min(wanted.height, height) };
  const sums = summedSteps(luma, width, height);
  const stride = width + 1;
  const at = (x: number, y: number) => sums[y * stride + x] ?? 0;
  let best = { x: 0, y: 0, sum: -1 };
  for (let y = 0; y + part.height <= height; y++)
    for (let x = 0; x + part.width <= width; x++) {
      const [right, low] = [x + part.width, y + part.height];
      const sum = at(right, low) - at(x, low) - at(right, y) + at(x, y);
      if (sum > best.sum) best = { x, y, sum };
    }
  return { x: best.x, y: best.y, ...part };
}

/** Sums of the steps above and to the left of each corner, so that the sum of any part takes four of them. */
function summedSteps(luma: ArrayLike<number>, width: number, height: number): Float64Array {
  const stride = width + 1;
  const sums = new Float64Array(stride * (height + 1));
  for (let y = 0; y < height; y++) {
    let row = 0;
    for (let x = 0; x < width; x++) {
      const here = luma[y * width + x] ?? 0;
      const right = x + 1 < width ? Math.abs((luma[y * width + x + 1] ?? 0) - here) : 0;
      const below = y + 1 < height ? Math.abs((luma[(y + 1) * width + x] ?? 0) - here) : 0;
      row += right + below;
      sums[(y + 1) * stride + x + 1] = (sums[y * stride + x + 1] ?? 0) + row;
    }
  }
  return sums;
}
