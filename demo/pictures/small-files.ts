import sharp from 'sharp';
import { heightProfiles } from './height-profiles.js';
import { drawRidges } from './ridges.js';
import { randomFrom } from './noise.js';
import { iconNames, iconSvg, logoSvg } from './shapes.js';
import type { PaintedFile } from './paint.js';

const badgeColours = ['#28424f', '#c8552f', '#51683f'];

/** Icons, badges, the mark, the animation, a chart and the file that is not an image. */
export async function makeSmallFiles(): Promise<PaintedFile[]> {
  return [
    { file: 'logo.svg', content: Buffer.from(logoSvg()) },
    ...iconNames.map((name) => ({ file: `icon-${name}.svg`, content: Buffer.from(iconSvg(name)) })),
    ...(await badges()),
    { file: 'webcam.gif', content: await webcam() },
    ...heightProfiles(),
    { file: 'snow-depth.png', content: await chart() },
    { file: 'stamp@2x.png', content: await stamp() },
    {
      file: 'avalanche-map.jpg',
      content: Buffer.from('<!doctype html><title>Moved</title><p>This map has moved.\n'),
    },
  ];
}

/** Tiny pictures, one file each: eight signs in three colours. */
async function badges(): Promise<PaintedFile[]> {
  const files: PaintedFile[] = [];
  for (const [index, colour] of badgeColours.entries()) {
    for (const name of iconNames) {
      const content = await sharp(Buffer.from(iconSvg(name, colour, 40)))
        .png({ compressionLevel: 9 })
        .toBuffer();
      files.push({ file: `badges/${name}-${index + 1}.png`, content });
    }
  }
  return files;
}

/** Snow falling in front of a ridge: an animation of twelve pictures. */
async function webcam(): Promise<Buffer> {
  const width = 480;
  const height = 300;
  const ground = drawRidges(width, height, { palette: 'mist', seed: 61, snow: 0.7, grain: 3 });
  const random = randomFrom(61);
  const flakes = Array.from({ length: 160 }, () => ({
    x: random() * width,
    y: random() * height,
    size: 1 + random() * 2,
  }));
  const frames = await Promise.all(
    Array.from({ length: 12 }, (_, frame) =>
      sharp(drawFlakes(ground.pixels, flakes, frame, width, height), { raw: { width, height, channels: 3 } })
        .png()
        .toBuffer(),
    ),
  );
  return sharp(frames, { join: { animated: true } })
    .gif({ delay: frames.map(() => 120), loop: 0 })
    .toBuffer();
}

interface Flake {
  x: number;
  y: number;
  size: number;
}

function drawFlakes(
  ground: Uint8ClampedArray,
  flakes: readonly Flake[],
  frame: number,
  width: number,
  height: number,
): Uint8ClampedArray {
  const pixels = Uint8ClampedArray.from(ground);
  for (const { x, y, size } of flakes) {
    const top = Math.floor((y + (frame * height) / 12) % height);
    for (let dy = 0; dy < size; dy++) {
      for (let dx = 0; dx < size; dx++) {
        const at = (Math.min(height - 1, top + dy) * width + Math.min(width - 1, Math.floor(x) + dx)) * 3;
        pixels.fill(250, at, at + 3);
      }
    }
  }
  return pixels;
}

/** A chart of the snow's depth over a winter, as a graphic with few colours. */
async function chart(): Promise<Buffer> {
  const random = randomFrom(71);
  const bars = Array.from({ length: 40 }, (_, index) => {
    const depth = Math.round(60 + Math.sin(index / 12) * 180 + random() * 50);
    return `<rect x="${30 + index * 23}" y="${380 - depth}" width="17" height="${depth}" fill="#5d8aa0"/>`;
  }).join('');
  const lines = [80, 180, 280, 380]
    .map((y) => `<path d="M20 ${y}H960" stroke="#c9d4d8" stroke-width="2"/>`)
    .join('');
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="960" height="420"><rect width="960" height="420" fill="#fff"/>${lines}${bars}</svg>`;
  return sharp(Buffer.from(svg)).png({ palette: true, colours: 16, compressionLevel: 9 }).toBuffer();
}

/** The stamp of the association's book, for dense screens only. */
function stamp(): Promise<Buffer> {
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="240" height="120"><rect x="6" y="6" width="228" height="108" rx="14" fill="none" stroke="#c8552f" stroke-width="8"/><path d="M40 92l46-60 32 40 24-28 58 48z" fill="#28424f"/></svg>';
  return sharp(Buffer.from(svg)).png({ palette: true, colours: 16, compressionLevel: 9 }).toBuffer();
}
