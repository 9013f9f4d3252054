import sharp, { type Sharp } from 'sharp';
import { mix } from './noise.js';

export type Colour = readonly [red: number, green: number, blue: number];

/** Raw RGB pixels. */
export interface Canvas {
  width: number;
  height: number;
  pixels: Uint8ClampedArray;
}

export function newCanvas(width: number, height: number): Canvas {
  return { width, height, pixels: new Uint8ClampedArray(width * height * 3) };
}

export function blend(a: Colour, b: Colour, part: number): Colour {
  return [mix(a[0], b[0], part), mix(a[1], b[1], part), mix(a[2], b[2], part)];
}

export function toSharp({ width, height, pixels }: Canvas): Sharp {
  return sharp(pixels, { raw: { width, height, channels: 3 } });
}

/** Draws vector shapes over a canvas. */
export async function drawOver(canvas: Canvas, shapes: string): Promise<Sharp> {
  const { width, height } = canvas;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 1000 ${Math.round((1000 * height) / width)}">${shapes}</svg>`;
  const { data, info } = await toSharp(canvas)
    .composite([{ input: Buffer.from(svg) }])
    .raw()
    .toBuffer({ resolveWithObject: true });
  return sharp(data, { raw: { width: info.width, height: info.height, channels: info.channels } });
}
