import type { Pixels } from './luma.js';

/** What a picture's pixels are like, which decides how it is stored best. */
export type PictureContent = 'graphic' | 'photo' | 'between';

/** Share of pixels equal to their left neighbour from which a picture is a graphic, and up to which it is photo-like. */
const graphicFrom = 0.7;
const photoUpTo = 0.6;

/** Share of pixels that equal their left neighbour in all channels, 0 to 1. Meaningful at the picture's own size only. */
export function flatShare({ data, width, height, channels }: Pixels): number {
  if (width < 2) return 0;
  let equal = 0;
  for (let y = 0; y < height; y++) {
    const end = (y + 1) * width * channels;
    for (let at = (y * width + 1) * channels; at < end; at += channels) {
      let same = true;
      for (let channel = 0; channel < channels && same; channel++)
        same = data[at + channel] === data[at - channels + channel];
      if (same) equal++;
    }
  }
  return equal / ((width - 1) * height);
}

/** The kind of a losslessly stored picture by its flat share. */
export function contentOf(share: number): PictureContent {
  if (share >= graphicFrom) return 'graphic';
  return share <= photoUpTo ? 'photo' : 'between';
}

/** Steps between neighbours, in brightness: up to this is flat but for the traces of a lossy encoder, … */
const still = 5;
/** … and from this an edge that the encoder could not hide. */
const steep = 40;

export interface EdgeShares {
  /** Share of horizontal steps that are flat, 0 to 1. */
  flat: number;
  /** Of the steps that are not flat, the share of steep ones, 0 to 1. */
  steep: number;
}

/**
 * How brightness changes from pixel to pixel. Drawings are flat with steep edges and little in between, also after a lossy
 * encoder has blurred them; photographs have steps of every height.
 */
export function edgeShares(luma: Float32Array | Uint8Array, width: number): EdgeShares {
  let flat = 0;
  let steeps = 0;
  let steps = 0;
  for (let index = 1; index < luma.length; index++) {
    if (index % width === 0) continue;
    const step = Math.abs((luma[index] ?? 0) - (luma[index - 1] ?? 0));
    steps++;
    if (step <= still) flat++;
    else if (step >= steep) steeps++;
  }
  return { flat: steps === 0 ? 0 : flat / steps, steep: steps === flat ? 0 : steeps / (steps - flat) };
}
