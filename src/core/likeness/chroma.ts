import type { Pixels } from './luma.js';
import type { LumaPicture } from './ssim.js';

/** The two colour differences of a picture. */
export interface ChromaPicture {
  blue: LumaPicture;
  red: LumaPicture;
}

/** ITU-R BT.601, section 2.5.2: the part of each channel in the two colour differences. */
const ofBlue = [-0.168736, -0.331264, 0.5] as const;
const ofRed = [0.5, -0.418688, -0.081312] as const;
/** Of gray. What shows through where a picture is transparent is taken for gray too. */
const middle = 128;

/** The colour differences of a picture at half its size, as lossy formats store them; undefined for gray pictures. */
export function chromaOf({ data, width, height, channels }: Pixels): ChromaPicture | undefined {
  if (channels < 3) return undefined;
  const size = { width: Math.floor(width / 2), height: Math.floor(height / 2) };
  const blue = new Float32Array(size.width * size.height).fill(middle);
  const red = new Float32Array(size.width * size.height).fill(middle);
  const alpha = channels === 4;
  for (let y = 0; y < 2 * size.height; y++) {
    const row = (y >> 1) * size.width;
    for (let x = 0, at = y * width * channels; x < 2 * size.width; x++, at += channels) {
      const place = row + (x >> 1);
      const share = (alpha ? (data[at + 3] ?? 255) / 255 : 1) / 4;
      const [r, g, b] = [data[at] ?? 0, data[at + 1] ?? 0, data[at + 2] ?? 0];
      blue[place] = (blue[place] ?? 0) + share * (ofBlue[0] * r + ofBlue[1] * g + ofBlue[2] * b);
      red[place] = (red[place] ?? 0) + share * (ofRed[0] * r + ofRed[1] * g + ofRed[2] * b);
    }
  }
  return { blue: { ...size, luma: blue }, red: { ...size, luma: red } };
}

/**
 * One similarity from that of the brightness and those of the two colour differences: Wang, Lu and Bovik, "Video quality assessment
 * based on structural distortion measurement", Signal Processing: Image Communication 19 (2004), section 3.1.
 */
export function colourSimilarity(brightness: number, blue: number, red: number): number {
  return 0.8 * brightness + 0.1 * blue + 0.1 * red;
}
