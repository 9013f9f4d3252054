import { newCanvas, type Canvas } from './canvas.js';
import { mix, NoiseTile, randomFrom } from './noise.js';
import { drawRidges, type RidgeOptions } from './ridges.js';

const field = new NoiseTile(11);

/** Ridges over a lake that mirrors them, the mirror broken by ripples. */
export function drawLake(width: number, height: number, options: RidgeOptions): Canvas {
  const canvas = drawRidges(width, height, { ...options, skyline: 0.18, trees: true });
  const shore = Math.round(height * 0.56);
  const { pixels } = canvas;
  const random = randomFrom(options.seed + 5);
  for (let y = shore; y < height; y++) {
    const depth = (y - shore) / (height - shore);
    const ripple = Math.round((field.near(y * 3, options.seed * 9) - 0.5) * width * 0.02 * (0.2 + depth));
    const mirrored = Math.max(0, shore - 1 - Math.round((y - shore) * 1.1));
    for (let x = 0; x < width; x++) {
      const from = (mirrored * width + Math.min(width - 1, Math.max(0, x + ripple))) * 3;
      const to = (y * width + x) * 3;
      const light = field.near((x * 400) / width, (y * 2600) / height) * 26 + (random() - 0.5) * 10 - 16;
      pixels[to] = mix(pixels[from] ?? 0, 40, 0.3 + depth * 0.2) + light;
      pixels[to + 1] = mix(pixels[from + 1] ?? 0, 62, 0.3 + depth * 0.2) + light;
      pixels[to + 2] = mix(pixels[from + 2] ?? 0, 82, 0.3 + depth * 0.2) + light;
    }
  }
  return canvas;
}

/** A slope of wind-packed snow: soft drifts, blue shade, glints. */
export function drawSnow(width: number, height: number, seed: number): Canvas {
  const canvas = newCanvas(width, height);
  const random = randomFrom(seed);
  const scale = 1200 / width;
  let offset = 0;
  for (let y = 0; y < height; y++) {
    const v = y * scale;
    let slope = 0;
    for (let x = 0; x < width; x++) {
      const u = x * scale;
      // The drifts are so wide that every fourth pixel is enough.
      if ((x & 3) === 0) {
        const drift = field.at(u * 0.22 + v * 0.1 + seed * 11, v * 0.4);
        slope = field.at((u + 3) * 0.22 + v * 0.1 + seed * 11, v * 0.4) - drift;
      }
      const crust = field.near((u * 2.1) | 0, (v * 3.3 + seed) | 0) - 0.5;
      const shade = 205 + slope * 2600 + crust * 34 + (random() - 0.5) * 16;
      const glint = random() > 0.9985 ? 60 : 0;
      canvas.pixels[offset++] = shade - 14 + glint;
      canvas.pixels[offset++] = shade - 4 + glint;
      canvas.pixels[offset++] = shade + 14 + glint;
    }
  }
  return canvas;
}

/** A lake under an evening sky: hardly any grain, and nothing but slow changes of colour down to the dark shore. */
export function drawEvening(width: number, height: number, seed: number): Canvas {
  const canvas = newCanvas(width, height);
  const random = randomFrom(seed);
  const scale = 1600 / width;
  let offset = 0;
  for (let y = 0; y < height; y++) {
    const down = y / height;
    // The lake mirrors the sky, darker.
    const sky = down < 0.55 ? down / 0.55 : (1 - down) / 0.45;
    const dark = down < 0.55 ? 0 : 0.28;
    for (let x = 0; x < width; x++) {
      const u = x * scale;
      const hill = 0.52 - 0.05 * field.at(u * 0.05 + seed, 3);
      const shore = down > hill && down < 0.56 ? 0.75 : 0;
      const glow = Math.max(0, 1 - Math.hypot(u - 1050, (down - 0.5) * 1400) / 900) * 46;
      const cloud = (field.at(u * 0.02 + seed * 7, y * scale * 0.09) - 0.5) * 18;
      const light = (1 - dark) * (1 - shore);
      const grain = (random() - 0.5) * 1.6;
      canvas.pixels[offset++] = (70 + 150 * sky + glow + cloud) * light + grain;
      canvas.pixels[offset++] = (78 + 78 * sky + glow * 0.6 + cloud) * light + grain;
      canvas.pixels[offset++] = (120 + 20 * sky + cloud * 0.5) * light + grain;
    }
  }
  return canvas;
}

/** A wall of sawn planks: grain along the boards, knots, dark joints. */
export function drawTimber(width: number, height: number, seed: number): Canvas {
  const canvas = newCanvas(width, height);
  const random = randomFrom(seed);
  const boards = 7;
  const board = height / boards;
  const scale = 1400 / width;
  let offset = 0;
  for (let y = 0; y < height; y++) {
    const index = Math.floor(y / board);
    const across = (y - index * board) / board;
    const tone = field.near(index * 47 + seed * 3, seed * 29) * 60 - 30;
    const joint = across < 0.02 || across > 0.985 ? 0.35 : 1;
    let rings = 0;
    for (let x = 0; x < width; x++) {
      const u = x * scale + index * 977;
      // The rings run along the boards, so every fourth pixel is enough.
      if ((x & 3) === 0) {
        const bend = field.at(u * 0.12, index * 31 + across * 9) * 14;
        rings = field.at(u * 0.08 + seed, (across * 60 + bend) * 1.6 + index * 61);
      }
      const fibre = field.near((u * 0.9) | 0, (y * scale * 5) | 0) - 0.5;
      const light = (118 + tone + (rings - 0.5) * 150 + fibre * 46 + (random() - 0.5) * 12) * joint;
      canvas.pixels[offset++] = light * 1.22;
      canvas.pixels[offset++] = light * 0.88;
      canvas.pixels[offset++] = light * 0.58;
    }
  }
  return canvas;
}

/** Contour lines every few metres over tinted ground, as on a hiking map. Few colours, sharp edges. */
export function drawContours(width: number, height: number, seed: number): Canvas {
  const canvas = newCanvas(width, height);
  let offset = 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const ground = field.at((x * 120) / width + seed * 13, (y * 90) / width + seed * 7);
      const level = ground * 34;
      const near = Math.abs(level - Math.round(level));
      const slope = Math.abs(
        field.at(((x + 1) * 120) / width + seed * 13, (y * 90) / width + seed * 7) * 34 - level,
      );
      const line = near < Math.max(0.04, slope * 0.8);
      const main = Math.round(level) % 5 === 0;
      const tint = ground > 0.6 ? [250, 248, 240] : ground > 0.48 ? [226, 234, 206] : [206, 222, 186];
      const ink = main ? [150, 96, 52] : [196, 158, 120];
      const colour = ground < 0.3 ? [168, 204, 226] : line ? ink : tint;
      canvas.pixels[offset++] = colour[0] ?? 0;
      canvas.pixels[offset++] = colour[1] ?? 0;
      canvas.pixels[offset++] = colour[2] ?? 0;
    }
  }
  return canvas;
}
