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

/** Memory for the two colour differences of pictures of one size. */
export interface ChromaMemory {
  blue: Float32Array;
  red: Float32Array;
}

/**
 * The colour differences of a picture at half its size, as lossy formats store them; undefined for gray pictures.
 * @param into written to instead of new memory if it has the right length: large pictures are looked at many times over
 */
export function chromaOf(pixels: Pixels, into?: ChromaMemory): ChromaPicture | undefined {
  const { width, height, channels } = pixels;
  if (channels < 3) return undefined;
  const size = { width: Math.floor(width / 2), height: Math.floor(height / 2) };
  const plane = (memory: Float32Array | undefined): Plane => ({
    ...size,
    luma: memory?.length === size.width * size.height ? memory : new Float32Array(size.width * size.height),
  });
  const [blue, red] = [plane(into?.blue), plane(into?.red)];
  (channels === 3 ? fillOpaque : fill)(pixels, blue, red);
  return { blue, red };
}

interface Plane {
  width: number;
  height: number;
  luma: Float32Array;
}

/** Of the four pixels under each place. Nearly all pictures are opaque: without a choice in its loop this takes a third of the time. */
function fillOpaque({ data, width }: Pixels, blue: Plane, red: Plane): void {
  const below = width * 3;
  for (let y = 0, place = 0; y < blue.height; y++)
    for (let x = 0, at = 2 * y * below, low = at + below; x < blue.width; x++, place++, at += 6, low += 6) {
      const r = (data[at] ?? 0) + (data[at + 3] ?? 0) + (data[low] ?? 0) + (data[low + 3] ?? 0);
      const g = (data[at + 1] ?? 0) + (data[at + 4] ?? 0) + (data[low + 1] ?? 0) + (data[low + 4] ?? 0);
      const b = (data[at + 2] ?? 0) + (data[at + 5] ?? 0) + (data[low + 2] ?? 0) + (data[low + 5] ?? 0);
      blue.luma[place] = middle + (ofBlue[0] * r + ofBlue[1] * g + ofBlue[2] * b) / 4;
      red.luma[place] = middle + (ofRed[0] * r + ofRed[1] * g + ofRed[2] * b) / 4;
    }
}

function fill({ data, width, channels }: Pixels, blue: Plane, red: Plane): void {
  const below = width * channels;
  for (let y = 0, place = 0; y < blue.height; y++)
    for (let x = 0, first = 2 * y * below; x < blue.width; x++, place++, first += 2 * channels) {
      let r = 0;
      let g = 0;
      let b = 0;
      for (let corner = 0; corner < 4; corner++) {
        const at = first + (corner & 1) * channels + (corner >> 1) * below;
        const share = channels === 4 ? (data[at + 3] ?? 255) / 255 : 1;
        r += share * (data[at] ?? 0);
        g += share * (data[at + 1] ?? 0);
        b += share * (data[at + 2] ?? 0);
      }
      blue.luma[place] = middle + (ofBlue[0] * r + ofBlue[1] * g + ofBlue[2] * b) / 4;
      red.luma[place] = middle + (ofRed[0] * r + ofRed[1] * g + ofRed[2] * b) / 4;
    }
}

/**
 * One similarity from that of the brightness and those of the two colour differences: Wang, Lu and Bovik, "Video quality assessment
 * based on structural distortion measurement", Signal Processing: Image Communication 19 (2004), section 3.1.
 */
export function colourSimilarity(brightness: number, blue: number, red: number): number {
  return 0.8 * brightness + 0.1 * blue + 0.1 * red;
}
