import { paint } from '../../demo/pictures/paint.js';
import type { Ground, Overlay, PictureRecipe } from '../../demo/pictures/catalogue.js';

const palettes = ['dawn', 'day', 'dusk', 'mist'] as const;

/** Grounds and overlays of forty photographs, no two alike: air and grain, snow, water, timber, faces. */
const scenes: { ground: Ground; overlay?: Overlay }[] = [
  ...palettes.flatMap((palette, index) =>
    [6, 9, 12, 16].map((grain, row) => ({
      ground: { kind: 'ridges' as const, palette, seed: 400 + index * 10 + row, snow: row / 4, grain },
    })),
  ),
  ...palettes.flatMap((palette, index) =>
    [2, 8].map((grain) => ({
      ground: { kind: 'lake' as const, palette, seed: 500 + index + grain, snow: 0.3, grain },
    })),
  ),
  ...[1, 2, 3, 4].map((seed) => ({ ground: { kind: 'snow' as const, seed: 600 + seed } })),
  ...[1, 2, 3, 4].map((seed) => ({ ground: { kind: 'timber' as const, seed: 700 + seed } })),
  ...[1, 2, 3, 4].map((seed) => ({
    ground: { kind: 'ridges' as const, palette: 'mist' as const, seed: 800 + seed, snow: 0, grain: 6 },
    overlay: { kind: 'portrait' as const, seed },
  })),
  ...[1, 2, 3, 4].map((seed) => ({
    ground: { kind: 'ridges' as const, palette: 'day' as const, seed: 900 + seed, snow: 0.5, grain: 5 },
    overlay: { kind: 'hut' as const, x: 300 + seed * 60, base: 520, size: 160 },
  })),
];

/** One photograph of ridges as a JPEG file. Sizes in px. */
export async function ridges(width: number, height: number, quality: number): Promise<Buffer> {
  const [file] = await paint({
    name: 'ridges',
    width,
    height,
    ground: { kind: 'ridges', palette: 'dawn', seed: 41, grain: 6 },
    outputs: [{ file: 'ridges', format: 'jpeg', quality }],
  });
  if (!file) throw new Error('Nothing was painted.');
  return file.content;
}

export interface DrawnPicture {
  name: string;
  content: Buffer;
  /** The same without any loss, if it was drawn. */
  lossless?: Buffer;
}

/**
 * Draws forty varied photographs as JPEG files of quality 92, as cameras deliver them, and without loss.
 * @param width px
 * @param each every so manieth of them, where fewer will do
 */
export async function variedPictures(width: number, each = 1): Promise<DrawnPicture[]> {
  const pictures: DrawnPicture[] = [];
  for (const [index, scene] of scenes.entries()) {
    if (index % each !== 0) continue;
    const name = `${scene.ground.kind}-${index + 1}`;
    const recipe: PictureRecipe = {
      name,
      width,
      height: Math.round((width * 2) / 3),
      ...scene,
      outputs: [
        { file: name, format: 'jpeg', quality: 92 },
        { file: `${name} without loss`, format: 'png' },
      ],
    };
    const [file, lossless] = await paint(recipe);
    if (file && lossless) pictures.push({ name, content: file.content, lossless: lossless.content });
  }
  return pictures;
}
