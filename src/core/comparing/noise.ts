import { defaultTrifles } from '../bytes/trifles.js';

/** What two runs may differ by without anything having changed. */
export interface Noise {
  bytes: number;
  /** Layout-shift value. */
  shift: number;
}

/** A trifle of bytes; layout shifts are told to the hundredth. */
export const usualNoise: Noise = { bytes: defaultTrifles.trifleBytes, shift: 0.01 };
