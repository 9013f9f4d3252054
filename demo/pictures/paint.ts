import sharp, { type Sharp } from 'sharp';
import { drawOver, toSharp, type Canvas } from './canvas.js';
import type { Output, Overlay, PictureRecipe } from './catalogue.js';
import { drawRidges } from './ridges.js';
import { hutShape, portraitShape } from './shapes.js';
import { drawContours, drawLake, drawSnow, drawTimber } from './surfaces.js';

export interface PaintedFile {
  file: string;
  content: Buffer;
}

/** Paints a picture once and encodes every file that is made from it. */
export async function paint(recipe: PictureRecipe): Promise<PaintedFile[]> {
  const canvas = paintGround(recipe);
  const picture = recipe.overlay ? await drawOver(canvas, shapesOf(recipe.overlay, canvas)) : toSharp(canvas);
  const { data, info } = await picture.raw().toBuffer({ resolveWithObject: true });
  const raw = { width: info.width, height: info.height, channels: info.channels };
  const files: PaintedFile[] = [];
  for (const output of recipe.outputs) files.push({ file: output.file, content: await encode(sharp(data, { raw }), output) });
  return files;
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
  const sized = width === undefined ? picture : picture.resize({ width, ...(height === undefined ? {} : { height }) });
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
