import { causeInWords } from '../core/wording/words.js';
import { planProbes, wantsOwnSize } from '../core/bytes/probe-plan.js';
import { pricedFormats } from '../core/pricing/pricing-plan.js';
import { settingInWords, weighPicture, type Weighing } from '../core/bytes/weighing.js';
import type { Wishes } from '../core/judging/facts.js';
import type { ImageFile } from '../core/run/index.js';
import {
  canEncode,
  measureOrder,
  measurePicture,
  plainFormat,
  sideBySide,
  watchEncodes,
  type Tile,
} from '../images/index.js';
import type { Progress } from './context.js';
import { readImageFile } from './image-files.js';

export interface WeighOptions {
  looks: number;
  wishes: Wishes;
}

export interface FileToWeigh {
  file: string;
  /** Device px; a usual ladder if left out. */
  widths?: readonly number[];
}

/** A file that was weighed, with the time of its encodes. */
export interface WeighedFile {
  name: string;
  weighing: Weighing;
  /** How long the encode at a width took, ms; null where it is an estimate. */
  took(format: string, width: number): number | null;
  content: Buffer;
}

export interface UnweighedFile {
  name: string;
  why: string;
}

/** Phone to wide desktop, each about half as many pixels again as the one before. */
const usualLadder = [320, 480, 640, 960, 1280, 1600, 1920, 2560, 3200];
/** At most so many of them, spread over the picture's own width. */
const mostRungs = 5;

/** Weighs image files one after the other; what cannot be weighed is told with its reason and costs the others nothing. */
export async function weighFiles(
  wanted: readonly FileToWeigh[],
  options: WeighOptions,
  progress: Progress,
): Promise<(WeighedFile | UnweighedFile)[]> {
  progress.begin('files', wanted.length);
  const results: (WeighedFile | UnweighedFile)[] = [];
  for (const { file: name, widths } of wanted) {
    try {
      results.push(await weighFile(name, widths, options));
    } catch (cause) {
      results.push({ name, why: causeInWords(cause) });
    }
    progress.step();
  }
  return results;
}

async function weighFile(
  name: string,
  wanted: readonly number[] | undefined,
  options: WeighOptions,
): Promise<WeighedFile> {
  const { content, file } = await readImageFile(name);
  if (!pricedFormats.has(file.format)) throw new Error(`${file.format.toUpperCase()} files are not weighed`);
  if (Math.max(file.width, file.height) < smallestSide)
    throw new Error(
      `it is only ${file.width} × ${file.height} px; below ${smallestSide} px what a file weighs is not its picture`,
    );
  const widths = widthsFor(file, wanted);
  const order = measureOrder(file, {
    widths: planProbes(file, { make: widths, have: [] }, true),
    looks: options.looks,
    formats: [...options.wishes.formats, plainFormat(file)],
    drawings: options.wishes.formats,
    ownSize: wantsOwnSize(file, { make: widths, have: [] }),
  });
  const watch = watchEncodes();
  const price = { url: file.url, ...(await measurePicture(content, order, watch.encode)) };
  return {
    name,
    weighing: weighPicture(file, price, widths, options.wishes.trifles),
    took: watch.took,
    content,
  };
}

const smallestSide = 32;

/** Never larger than the picture, and always with its own size. Animations and drawings keep theirs. */
function widthsFor(file: ImageFile, wanted: readonly number[] | undefined): number[] {
  if (file.frames > 1 || file.format === 'svg') return [file.width];
  if (wanted) {
    const fitting = wanted.filter((width) => width <= file.width);
    return fitting.length > 0 ? fitting : [file.width];
  }
  const below = usualLadder.filter((width) => width <= file.width * 0.9);
  const step = Math.max(1, Math.ceil(below.length / (mostRungs - 1)));
  return [...below.reverse().filter((_, index) => index % step === 0), file.width];
}

/**
 * A picture that lays the same part of the original and of each variant side by side, at the largest width that was encoded.
 * @param middle of the part, as shares of width and height
 */
export async function compareVariants(
  { weighing: { file, variants }, content }: WeighedFile,
  middle?: { x: number; y: number },
): Promise<{ png: Buffer; labels: string[] } | undefined> {
  const encoded = variants.filter(({ error, format }) => error === 0 && canEncode(format));
  const width = Math.max(...encoded.map((variant) => variant.width));
  if (!Number.isFinite(width) || file.frames > 1) return undefined;
  const tiles = encoded
    .filter((variant) => variant.width === width)
    .map((variant): Tile => {
      const { format, quality, bytes, palette = file.palette } = variant;
      const setting = `${quality === null ? '' : 'quality '}${settingInWords(variant)}`;
      return {
        recipe: { format, quality, palette } as Tile['recipe'],
        label: `${format.toUpperCase()}, ${setting}, ${Math.round(bytes / 100) / 10} kB`,
      };
    });
  const originalLabel = `the original at ${width} px`;
  const png = await sideBySide(content, {
    alpha: file.alpha === 'used',
    width,
    ...(middle ? { middle } : {}),
    originalLabel,
    tiles,
  });
  return { png, labels: [originalLabel, ...tiles.map(({ label }) => label)] };
}
