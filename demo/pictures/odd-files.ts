import sharp, { type Sharp } from 'sharp';
import { toSharp } from './canvas.js';
import { NoiseTile } from './noise.js';
import type { PaintedFile } from './paint.js';
import { drawRidges } from './ridges.js';
import { portraitShape } from './shapes.js';
import { drawEvening } from './surfaces.js';

/** Pictures that are easily misread, and files that are not what they seem. */
export async function makeOddFiles(): Promise<PaintedFile[]> {
  const evening = await toSharp(drawEvening(2250, 1500, 5))
    .png()
    .toBuffer();
  const small = await sharp(evening).resize(800).jpeg({ quality: 74 }).toBuffer();
  return [
    ...(await eveningLadder(evening)),
    // The copy broke off.
    { file: 'evening-boat.jpg', content: small.subarray(0, Math.round(small.length * 0.6)) },
    {
      file: 'evening-shore.jpg',
      content: await sharp(evening).flop().resize(1050).webp({ quality: 74 }).toBuffer(),
    },
    ...(await cutOuts()),
    ...(await shadedMaps()),
    { file: 'sign-post.svg', content: await wrappedSign() },
  ];
}

function eveningLadder(evening: Buffer): Promise<PaintedFile[]> {
  return Promise.all(
    [350, 700, 820, 1050, 1600, 2200].map(async (width) => ({
      file: `evening-${width}.avif`,
      content: await sharp(evening)
        .resize(width)
        .avif({ quality: 55, effort: 0, chromaSubsampling: '4:2:0' })
        .toBuffer(),
    })),
  );
}

/** A member without the ground behind her, with the soft edge that such pictures have. */
async function cutOuts(): Promise<PaintedFile[]> {
  const files: PaintedFile[] = [];
  for (const [index, name] of ['ranger', 'builder'].entries()) {
    const picture = await cutOut(480, index);
    if (index === 0) files.push({ file: `${name}-480.png`, content: await picture.clone().png().toBuffer() });
    else
      for (const width of [160, 320, 480])
        files.push({
          file: `${name}-${width}.avif`,
          content: await picture
            .clone()
            .resize(width)
            .avif({ quality: 55, effort: 0, chromaSubsampling: '4:2:0' })
            .toBuffer(),
        });
  }
  return files;
}

async function cutOut(side: number, index: number): Promise<Sharp> {
  const ground = drawRidges(side, side, {
    palette: 'autumn',
    seed: 80 + index,
    trees: false,
    snow: 0,
    grain: 14,
  });
  const svg = (inner: string) =>
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}" viewBox="0 0 1000 1000">${inner}</svg>`,
    );
  const painted = await toSharp(ground)
    .composite([{ input: svg(portraitShape(index + 2, 1000)) }])
    .png()
    .toBuffer();
  const shape = svg(
    '<defs><filter id="soft"><feGaussianBlur stdDeviation="5"/></filter></defs><g filter="url(#soft)" fill="#fff"><circle cx="500" cy="360" r="230"/><path d="M90 1000C110 700 300 600 500 600S890 700 910 1000z"/></g>',
  );
  const cut = await sharp(painted)
    .ensureAlpha()
    .composite([{ input: shape, blend: 'dest-in' }])
    .png()
    .toBuffer();
  return sharp(cut);
}

const relief = new NoiseTile(23);

/** Ground that is shaded by its slope, with a path drawn over it: neither a drawing nor a photograph. */
async function shadedMaps(): Promise<PaintedFile[]> {
  const [width, height] = [1050, 700];
  const pixels = new Uint8ClampedArray(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const slope = relief.at(x * 0.3 + 4, y * 0.3) - relief.at(x * 0.3 - 4, y * 0.3);
      // Flat ground has one tint, so that much of the map is even.
      const shade = Math.abs(slope) < 0.02 ? 0 : slope * 420;
      const at = (y * width + x) * 3;
      pixels[at] = 206 + shade;
      pixels[at + 1] = 214 + shade;
      pixels[at + 2] = 188 + shade;
    }
  const path = Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><path d="M60 640C260 520 300 420 470 430S700 220 990 80" fill="none" stroke="#c8322a" stroke-width="6" stroke-dasharray="16 10"/><path d="M0 560C240 600 420 520 640 560S940 500 1050 540V700H0z" fill="#9fc0d6"/></svg>`,
  );
  const map = await toSharp({ width, height, pixels })
    .composite([{ input: path }])
    .png()
    .toBuffer();
  return [
    { file: 'relief-north.png', content: await sharp(map).png({ compressionLevel: 9 }).toBuffer() },
    ...(await Promise.all(
      [350, 532, 780, 1050].map(async (across) => ({
        file: `relief-south-${across}.avif`,
        content: await sharp(map).flop().resize(across).avif({ quality: 68, effort: 0 }).toBuffer(),
      })),
    )),
  ];
}

/** A picture of pixels that somebody has saved as an SVG. */
async function wrappedSign(): Promise<Buffer> {
  const [width, height] = [480, 320];
  const wood = drawRidges(width, height, { palette: 'dusk', seed: 91, grain: 6 });
  const picture = await toSharp(wood).jpeg({ quality: 80 }).toBuffer();
  return Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><image width="${width}" height="${height}" href="data:image/jpeg;base64,${picture.toString('base64')}"/></svg>`,
  );
}
