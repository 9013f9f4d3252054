import sharp, { type Sharp } from 'sharp';
import { drawOver, toSharp, type Canvas } from './canvas.js';
import type { Output, Overlay, PictureRecipe } from './catalogue.js';
import { randomFrom } from './noise.js';
import { drawRidges } from './ridges.js';
import { hutShape, portraitShape } from './shapes.js';
import { drawContours, drawLake, drawSnow, drawTimber } from './surfaces.js';

export interface PaintedFile {
  file: string;
  content: Buffer;
}

/** Paints a picture once and encodes every file that is made from it. */
export async function paint(recipe: PictureRecipe): Promise<PaintedFile[]> {
  const canvas = recipe.width > largestPainted ? await paintAtHalf(recipe) : paintGround(recipe);
  const picture = recipe.overlay ? await drawOver(canvas, shapesOf(recipe.overlay, canvas)) : toSharp(canvas);
  const files: PaintedFile[] = [];
  let level = await pixelsOf(picture);
  const widest = [...recipe.outputs].sort((a, b) => (b.width ?? recipe.width) - (a.width ?? recipe.width));
  for (const output of widest) {
    // Halving on the way down is much cheaper than shrinking the whole picture for every width.
    while (level.raw.width / 2 >= (output.width ?? recipe.width)) {
      level = await pixelsOf(sharp(level.data, level).resize({ width: Math.round(level.raw.width / 2) }));
    }
    files.push({ file: output.file, content: await encode(sharp(level.data, level), output) });
  }
  return files;
}

/** Wider pictures are painted at half their size and enlarged, with grain of their own: four times as fast. */
const largestPainted = 3000;

async function paintAtHalf(recipe: PictureRecipe): Promise<Canvas> {
  const { width, height } = recipe;
  const small = paintGround({ ...recipe, width: Math.round(width / 2), height: Math.round(height / 2) });
  const large = await toSharp(small).resize({ width, height, fit: 'fill' }).raw().toBuffer();
  const pixels = new Uint8ClampedArray(large.buffer, large.byteOffset, large.length);
  const random = randomFrom(recipe.ground.seed + 7);
  for (let index = 0; index < pixels.length; index += 3) {
    const grain = (random() - 0.5) * 22;
    pixels[index] = (pixels[index] ?? 0) + grain;
    pixels[index + 1] = (pixels[index + 1] ?? 0) + grain;
    pixels[index + 2] = (pixels[index + 2] ?? 0) + grain;
  }
  return { width, height, pixels };
}

async function pixelsOf(picture: Sharp) {
  const { data, info } = await picture.raw().toBuffer({ resolveWithObject: true });
  return { data, raw: { width: info.width, height: info.height, channels: info.channels } };
}

function paintGround({ width, height, ground }: PictureRecipe): Canvas {
  switch (ground.kind) {
    case 'ridges':
      return drawRidges(width, height, ground);
    case 'lake':
      return drawLake(width, height, ground);
    case 'snow':
      return drawSnow(width, height, ground.seed);
    case 'timber':
      return drawTimber(width, height, ground.seed);
    case 'contours':
      return drawContours(width, height, ground.seed);
  }
}

function shapesOf(overlay: Overlay, { width, height }: Canvas): string {
  switch (overlay.kind) {
    case 'hut':
      return hutShape(overlay.x, overlay.base, overlay.size, '#ffd27a');
    case 'portrait':
      return portraitShape(overlay.seed, (1000 * height) / width);
    case 'route':
      return (
        '<path d="M90 600C220 520 260 420 380 430S560 250 640 300S800 160 900 90" fill="none" stroke="#c8322a" ' +
        'stroke-width="7" stroke-dasharray="18 12"/><circle cx="900" cy="90" r="16" fill="#c8322a"/>' +
        '<path d="M380 430l-16 -26h32z" fill="#1f3a46"/>'
      );
  }
}

async function encode(picture: Sharp, output: Output): Promise<Buffer> {
  const { width, height, format, quality = 75 } = output;
  const sized =
    width === undefined ? picture : picture.resize({ width, ...(height === undefined ? {} : { height }) });
  const noted = output.cameraMetadata ? sized.withExif(cameraNotes) : sized;
  switch (format) {
    case 'jpeg':
      return noted.jpeg({ quality, progressive: quality < 90 }).toBuffer();
    case 'avif':
      return noted.avif({ quality, effort: 0, chromaSubsampling: '4:2:0' }).toBuffer();
    case 'webp':
      return noted.webp({ quality }).toBuffer();
    case 'png':
      return noted.png({ compressionLevel: 9 }).toBuffer();
    case 'png-palette':
      return noted.png({ palette: true, colours: 64, dither: 0, compressionLevel: 9 }).toBuffer();
  }
}

/** The long note stands for the maker notes that real cameras write: binary tables of several kilobytes. */
const cameraNotes = {
  IFD0: {
    Make: 'Norrfell Optics',
    Model: 'Ridge One',
    Software: 'Norrfell Huts picture desk',
    Copyright: 'Norrfell Huts',
    ImageDescription: 'Taken on the way between two huts. '.repeat(180),
  },
  IFD2: { ExposureTime: '1/250', FNumber: '8/1', ISOSpeedRatings: '100', FocalLength: '24/1' },
};
