import sharp from 'sharp';
import { busiestRegion, lumaOf, type Pixels } from '../core/likeness/index.js';
import type { ReportPicture } from '../core/run/index.js';
import { decodeAt } from './encode.js';

/** How much room the pictures of a report may take. */
export type PictureSize = 'small' | 'full';

const viewQuality = { small: 45, full: 60 };
/** Dots of a view for each CSS px at which it is shown: enough for screens of usual density. */
const viewDots = { small: 1.3, full: 2 };

/**
 * A picture of a page, as small as a report wants it.
 * @param png in device px
 * @param width at which it is shown, CSS px
 * @throws {Error} when it does not decode
 */
export async function viewPicture(png: Buffer, width: number, size: PictureSize): Promise<ReportPicture> {
  const { data, info } = await sharp(png)
    .removeAlpha()
    .resize({ width: Math.round(width * viewDots[size]), withoutEnlargement: true })
    .avif({ quality: viewQuality[size], effort: 2 })
    .toBuffer({ resolveWithObject: true });
  return { url: dataUrl(data, 'avif'), width, height: Math.round((info.height / info.width) * width) };
}

/** What is shown of a picture: a part of at most this size, dots. */
const part = { width: 240, height: 160 };
/** Differences are shown so many times brighter. */
const amplified = 8;

export interface ComparedDetail {
  before: ReportPicture;
  after: ReportPicture;
  difference: ReportPicture;
  /** The largest difference of any dot in any colour, 0 to 255. */
  largest: number;
}

/**
 * The part of a picture in which most happens, of two files of it, dot for dot as a screen shows them; and where they differ.
 * @param width at which both are drawn, device px: a smaller file is enlarged, as browsers do
 * @returns undefined where the two are not of one shape
 * @throws {Error} when one of them does not decode
 */
export async function compareDetail(
  before: Buffer,
  after: Buffer,
  width: number,
  size: PictureSize,
): Promise<ComparedDetail | undefined> {
  const [own, other] = await Promise.all([drawnAt(before, width), drawnAt(after, width)]);
  if (Math.abs(own.height - other.height) > 2) return undefined;
  const lower = own.height < other.height ? own : other;
  const region = busiestRegion(lumaOf(lower), part);
  const [was, is] = [cut(own, region), cut(other, region)];
  const gray = Buffer.alloc(region.width * region.height);
  let largest = 0;
  for (let index = 0; index < gray.length; index++) {
    let most = 0;
    for (let channel = 0; channel < 3; channel++)
      most = Math.max(most, Math.abs((was[3 * index + channel] ?? 0) - (is[3 * index + channel] ?? 0)));
    largest = Math.max(largest, most);
    gray[index] = Math.min(255, most * amplified);
  }
  const shown = async (data: Buffer, channels: 1 | 3): Promise<ReportPicture> => {
    const raw = sharp(data, { raw: { width: region.width, height: region.height, channels } });
    // What is to be compared is stored without loss where there is room, and nearly so where there is little.
    const [format, bytes] =
      size === 'full'
        ? (['webp', await raw.webp({ lossless: true, effort: 4 }).toBuffer()] as const)
        : ([
            'avif',
            await raw.avif({ quality: 82, effort: 2, chromaSubsampling: '4:4:4' }).toBuffer(),
          ] as const);
    return { url: dataUrl(bytes, format), width: region.width, height: region.height };
  };
  return {
    before: await shown(was, 3),
    after: await shown(is, 3),
    difference: await shown(gray, 1),
    largest,
  };
}

/** As browsers draw it on white, opaque. */
async function drawnAt(content: Buffer, width: number): Promise<Pixels> {
  const pixels = await decodeAt(content, width, true);
  if (pixels.channels === 3) return pixels;
  const { data, info } = await sharp(pixels.data, { raw: pixels })
    .flatten({ background: '#fff' })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height, channels: 3 };
}

function cut(
  { data, width }: Pixels,
  region: { x: number; y: number; width: number; height: number },
): Buffer {
  const rows = Array.from({ length: region.height }, (_, row) => {
    const start = 3 * ((region.y + row) * width + region.x);
    return data.subarray(start, start + 3 * region.width);
  });
  return Buffer.concat(rows);
}

const dataUrl = (data: Buffer, format: string) => `data:image/${format};base64,${data.toString('base64')}`;
