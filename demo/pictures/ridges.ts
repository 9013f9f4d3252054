import { blend, newCanvas, type Canvas, type Colour } from './canvas.js';
import { mix, NoiseTile, randomFrom } from './noise.js';

export interface Palette {
  high: Colour;
  horizon: Colour;
  far: Colour;
  near: Colour;
}

export const palettes = {
  dawn: { high: [92, 120, 168], horizon: [246, 206, 170], far: [170, 160, 182], near: [38, 44, 58] },
  dusk: { high: [44, 48, 92], horizon: [232, 142, 112], far: [128, 100, 132], near: [20, 20, 36] },
  day: { high: [86, 148, 208], horizon: [218, 234, 242], far: [150, 178, 198], near: [44, 72, 58] },
  mist: { high: [172, 186, 196], horizon: [228, 232, 232], far: [188, 198, 204], near: [58, 74, 80] },
  autumn: { high: [120, 150, 182], horizon: [240, 226, 196], far: [176, 168, 160], near: [116, 68, 34] },
} satisfies Record<string, Palette>;

export interface RidgeOptions {
  palette: keyof typeof palettes;
  seed: number;
  /** Where the farthest ridge stands, as part of the height. */
  skyline?: number;
  layers?: number;
  /** Part of each ridge below its crest that carries snow, 0 to 1. */
  snow?: number;
  trees?: boolean;
  /** Strength of the film grain, in levels of 255. */
  grain?: number;
}

/** One noise field for all pictures; seeds shift where in it they look. */
const field = new NoiseTile(7);

/** Ridges one behind the other, paler with the distance, under a sky with thin cloud. */
export function drawRidges(width: number, height: number, options: RidgeOptions): Canvas {
  const { palette, seed, skyline = 0.34, layers = 6, snow = 0.25, trees = true, grain = 9 } = options;
  const colours: Palette = palettes[palette];
  const canvas = newCanvas(width, height);
  const crests = Array.from({ length: layers }, (_, layer) =>
    crestLine(width, height, layer, { layers, skyline, seed, jagged: trees && layer >= layers - 2 }),
  );
  const tones = crests.map((_, layer) => blend(colours.far, colours.near, (layer / (layers - 1)) ** 1.4));
  const current = new Int8Array(width).fill(-1);
  const scale = 1600 / width;
  const random = randomFrom(seed + 99);
  const { pixels } = canvas;
  let offset = 0;
  for (let y = 0; y < height; y++) {
    const sky = blend(colours.high, colours.horizon, Math.min(1, y / (height * (skyline + 0.12))));
    const v = y * scale;
    for (let x = 0; x < width; x++) {
      let layer = current[x] ?? -1;
      while (layer + 1 < layers && y >= (crests[layer + 1]?.[x] ?? height)) layer++;
      current[x] = layer;
      const u = x * scale;
      const noise = (random() - 0.5) * 2 * grain;
      if (layer < 0) {
        const cloud =
          Math.max(0, field.near((u * 0.35 + seed * 31) | 0, (v * 1.1 + seed * 17) | 0) - 0.52) * 210;
        pixels[offset++] = sky[0] + cloud + noise * 0.5;
        pixels[offset++] = sky[1] + cloud + noise * 0.5;
        pixels[offset++] = sky[2] + cloud * 0.9 + noise * 0.5;
        continue;
      }
      const depth = layer / (layers - 1);
      const below = (y - (crests[layer]?.[x] ?? 0)) / height;
      const fine = field.near((u * 2.3 + layer * 131) | 0, (v * 2.3 + seed * 53) | 0) - 0.5;
      const coarse = field.near((u * 0.7 + layer * 71 + seed) | 0, (v * 1.3) | 0) - 0.5;
      const texture = (fine * 70 + coarse * 60) * (0.35 + depth * 0.65);
      const white = snow > 0 && layer < layers - 3 && below < snow * (coarse + 0.42) * 0.42 ? 1 : 0;
      // Mist lies in the valleys: the foot of each ridge fades towards the horizon's colour.
      const mist = Math.min(0.75, below * 3.2 * (1 - depth));
      const tone = tones[layer] ?? colours.near;
      for (let channel = 0; channel < 3; channel++) {
        const rock = (tone[channel] ?? 0) + texture;
        const covered = white ? mix(rock, 236 + coarse * 60, 0.8) : rock;
        pixels[offset++] = mix(covered, colours.horizon[channel] ?? 0, mist) + noise;
      }
    }
  }
  return canvas;
}

interface CrestOptions {
  layers: number;
  skyline: number;
  seed: number;
  jagged: boolean;
}

function crestLine(
  width: number,
  height: number,
  layer: number,
  { layers, skyline, seed, jagged }: CrestOptions,
): Float32Array {
  const base = skyline + (0.94 - skyline) * (layer / layers) ** 1.1;
  const steep = 0.32 - 0.22 * (layer / layers);
  const crest = new Float32Array(width);
  for (let x = 0; x < width; x++) {
    const along = x / width;
    const large = field.at(along * 210 + seed * 37 + layer * 57, layer * 41 + seed) - 0.5;
    const small = field.at(along * 700 + layer * 19, seed * 3 + layer * 23) - 0.5;
    const tree = jagged ? spike(along * (260 - layer * 12), seed + layer, field) * 0.045 : 0;
    crest[x] = height * (base - large * steep * 2 - small * 0.025 - tree);
  }
  return crest;
}

/** Height of a spruce at a place along a line of them, 0 to 1. */
function spike(place: number, seed: number, noise: NoiseTile): number {
  const index = Math.floor(place);
  const tall = noise.near(index * 7 + seed * 13, seed * 5) * 1.5 - 0.35;
  return Math.max(0, tall) * (1 - Math.abs(place - index - 0.5) * 2);
}
