import type { LumaPicture } from './ssim.js';

/** Pixels as decoders give them: 8 bit, row by row. 1 channel is gray, 2 gray and alpha, 3 RGB, 4 RGBA. */
export interface Pixels {
  data: Uint8Array;
  width: number;
  height: number;
  channels: 1 | 2 | 3 | 4;
}

/** ITU-R BT.601, section 2.5.1. */
const weights = [0.299, 0.587, 0.114] as const;

/**
 * The brightness of a picture.
 * @param ground brightness that shows through where the picture is transparent, 0 to 255
 * @param into written to instead of new memory if it has the right length: large pictures are looked at many times over
 */
export function lumaOf(
  { data, width, height, channels }: Pixels,
  ground = 255,
  into?: Float32Array,
): LumaPicture {
  const luma = into?.length === width * height ? into : new Float32Array(width * height);
  if (channels === 3) fillOpaque(luma, data);
  else fill(luma, data, channels, ground);
  return { width, height, luma };
}

/** Nearly all pictures are opaque and coloured, and are looked at many times over: without a choice in its loop this takes half the time. */
function fillOpaque(luma: Float32Array, data: Uint8Array): void {
  const [red, green, blue] = weights;
  for (let index = 0, at = 0; index < luma.length; index++, at += 3)
    luma[index] = red * (data[at] ?? 0) + green * (data[at + 1] ?? 0) + blue * (data[at + 2] ?? 0);
}

function fill(luma: Float32Array, data: Uint8Array, channels: Pixels['channels'], ground: number): void {
  const [red, green, blue] = weights;
  const gray = channels < 3;
  const alpha = channels === 2 || channels === 4;
  for (let index = 0, at = 0; index < luma.length; index++, at += channels) {
    const first = data[at] ?? 0;
    const bright = gray ? first : red * first + green * (data[at + 1] ?? 0) + blue * (data[at + 2] ?? 0);
    if (alpha) {
      const share = (data[at + channels - 1] ?? 255) / 255;
      luma[index] = bright * share + ground * (1 - share);
    } else luma[index] = bright;
  }
}

export const hasAlphaChannel = ({ channels }: Pick<Pixels, 'channels'>) => channels === 2 || channels === 4;

/** Peak signal-to-noise ratio over all channels, dB; Infinity for equal pictures. */
export function peakSignalToNoise(a: Uint8Array, b: Uint8Array): number {
  let squares = 0;
  for (let index = 0; index < a.length; index++) squares += ((a[index] ?? 0) - (b[index] ?? 0)) ** 2;
  return squares === 0 ? Number.POSITIVE_INFINITY : 10 * Math.log10((255 * 255 * a.length) / squares);
}
