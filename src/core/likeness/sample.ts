import type { Pixels } from './luma.js';

/** Side of a tile, px: whole blocks of every lossy format. */
const side = 64;
/** How the tiles lie in a sample: enough of them to have a bit of everything that a picture shows. */
const grid = { columns: 8, rows: 4 };
/** A picture with fewer times as many pixels is its own sample. */
const worthSampling = 3;

/**
 * The two steps of the sequence that fills a square most evenly, however many of its points are taken: Martin Roberts, "The unreasonable
 * effectiveness of quasirandom sequences" (2018).
 */
const steps = [0.7548776662466927, 0.5698402909980532] as const;

/**
 * Tiles from all over a picture, put together to a small one that suffers from an encoder as the whole does.
 * @returns undefined where the picture is so small that it can be looked at whole
 */
export function sampleOf({ data, width, height, channels }: Pixels): Pixels | undefined {
  const size = { width: grid.columns * side, height: grid.rows * side };
  if (width < side || height < side || width * height < worthSampling * size.width * size.height)
    return undefined;
  const sample = new Uint8Array(size.width * size.height * channels);
  for (let tile = 0; tile < grid.columns * grid.rows; tile++) {
    const left = placeOf(tile, steps[0], width);
    const top = placeOf(tile, steps[1], height);
    const [column, row] = [tile % grid.columns, Math.floor(tile / grid.columns)];
    for (let line = 0; line < side; line++) {
      const from = ((top + line) * width + left) * channels;
      const to = ((row * side + line) * size.width + column * side) * channels;
      sample.set(data.subarray(from, from + side * channels), to);
    }
  }
  return { data: sample, ...size, channels };
}

/** Where a tile begins along a side, px: even, so that the colours of its pixels stay together in pairs. */
function placeOf(tile: number, step: number, length: number): number {
  const part = (0.5 + tile * step) % 1;
  return 2 * Math.floor((part * (length - side)) / 2);
}
