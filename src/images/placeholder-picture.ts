import sharp from 'sharp';
import type { Placeholder } from '../core/run/index.js';
import { mostPixels } from './facts.js';
import { labelImage } from './label.js';

const width = 300;
const gap = 12;
const labelHeight = 30;

/**
 * Lays the picture and what could stand in for it side by side, as a PNG: its colour, its gradient, its tiny copy enlarged as browsers do.
 * @throws {Error} when the picture does not decode
 */
export async function placeholderPicture(
  content: Buffer,
  { colour, gradient, inlined }: Placeholder,
): Promise<Buffer> {
  const { data: original, info } = await sharp(content, { limitInputPixels: mostPixels })
    .autoOrient()
    .toColourspace('srgb')
    .flatten({ background: '#fff' })
    .resize({ width, height: 400, fit: 'inside' })
    .png()
    .toBuffer({ resolveWithObject: true });
  const size = { width: info.width, height: info.height };
  const tiny = inlined === null ? undefined : Buffer.from(inlined.slice(inlined.indexOf(',') + 1), 'base64');
  const tiles = [
    { label: 'the picture', input: original },
    { label: `colour, ${colour.length} B`, input: drawn(size, '', colour) },
    { label: `gradient, ${gradient.length} B`, input: drawn(size, gradientElement(gradient), 'url(#g)') },
    ...(tiny
      ? [
          {
            label: `tiny copy, ${inlined?.length ?? 0} B`,
            input: await sharp(tiny)
              .resize({ ...size, fit: 'fill', kernel: 'cubic' })
              .png()
              .toBuffer(),
          },
        ]
      : []),
  ];
  return sharp({
    create: {
      width: gap + tiles.length * (width + gap),
      height: labelHeight + size.height + 2 * gap,
      channels: 3,
      background: '#f4f4f2',
    },
  })
    .composite(
      tiles.flatMap(({ label, input }, index) => {
        const left = gap + index * (width + gap);
        return [
          { input: labelImage(label, width, labelHeight), left, top: gap },
          { input, left, top: gap + labelHeight },
        ];
      }),
    )
    .png({ compressionLevel: 9 })
    .toBuffer();
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
