import sharp from 'sharp';
import type { Placeholder } from '../core/run/index.js';
import { openPicture } from './open.js';
import { tileSheet } from './tile-sheet.js';

const width = 300;

/**
 * Lays the picture and what could stand in for it side by side, as a PNG: its colour, its gradient, its tiny copy enlarged as browsers do.
 * @throws {Error} when the picture does not decode
 */
export async function placeholderPicture(
  content: Buffer,
  { colour, gradient, inlined }: Placeholder,
): Promise<Buffer> {
  const { data: original, info } = await openPicture(content)
    .autoOrient()
    .toColourspace('srgb')
    .flatten({ background: '#fff' })
    .resize({ width, height: 400, fit: 'inside' })
    .png()
    .toBuffer({ resolveWithObject: true });
  const size = { width: info.width, height: info.height };
  const tiny = inlined === null ? undefined : Buffer.from(inlined.slice(inlined.indexOf(',') + 1), 'base64');
  const tiles = [
    { label: 'the picture', picture: original },
    { label: `colour, ${colour.length} B`, picture: drawn(size, '', colour) },
    { label: `gradient, ${gradient.length} B`, picture: drawn(size, gradientElement(gradient), 'url(#g)') },
    ...(tiny
      ? [
          {
            label: `tiny copy, ${inlined?.length ?? 0} B`,
            picture: await sharp(tiny)
              .resize({ ...size, fit: 'fill', kernel: 'cubic' })
              .png()
              .toBuffer(),
          },
        ]
      : []),
  ];
  return tileSheet(tiles, size);
}

function drawn(
  { width: w, height }: { width: number; height: number },
  definitions: string,
  fill: string,
): Buffer {
  return Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${w}" height="${height}">${definitions}<rect width="100%" height="100%" fill="${fill}"/></svg>`,
  );
}

function gradientElement(gradient: string): string {
  const colours = gradient.match(/#[0-9a-f]{6}/g) ?? [];
  const end = gradient.includes('90deg') ? 'x2="1" y2="0"' : 'x2="0" y2="1"';
  const stops = colours.map(
    (colour, index) => `<stop offset="${index / Math.max(1, colours.length - 1)}" stop-color="${colour}"/>`,
  );
  return `<defs><linearGradient id="g" x1="0" y1="0" ${end}>${stops.join('')}</linearGradient></defs>`;
}
