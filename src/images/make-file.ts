import sharp from 'sharp';
import { removableKinds } from '../core/plan/removable.js';
import type { FileToMake, ImageFile } from '../core/run/index.js';
import { cleanVector } from './clean-vector.js';
import { bareFile } from './containers/bare.js';
import { cropFacts, cutOut } from './crop.js';
import { asExif, putExif, readCredits } from './credits.js';
import { decodeAt, encode, type Recipe } from './encode.js';
import { canCompare, Original } from './likeness.js';
import { measureOrder } from './measure-order.js';
import { lightestLossless, ownRecipe } from './measure-width.js';

export interface MadeFile {
  content: Buffer;
  /** Likeness to the master at that width, dB; undefined where nothing was lost or nothing is to be compared. */
  decibels?: number;
}

/** What a user wants beyond what was measured. */
export interface MakeOptions {
  /** Lets encoders take their time: a file that comes out lighter and looks no worse stands in place of the measured one. */
  thorough?: boolean;
  /** Keeps the names of author and licence. */
  keepCredits?: boolean;
}

/**
 * Makes a file as it was measured: by the same decoder, the same encoder and the same setting, so that it has the bytes that were promised.
 * @param master the file that it is made from, as the run knows it
 * @throws {Error} when it cannot be made, with the reason
 */
export async function makeFile(
  content: Buffer,
  file: FileToMake,
  master: ImageFile,
  options: MakeOptions = {},
): Promise<MadeFile> {
  const { recipe, width, format, quality } = file;
  switch (recipe) {
    case 'bare':
      return { content: await withoutNotes(content, format, master, options) };
    case 'cleaned': {
      const cleaned = await cleanVector(content, master.width);
      if (!cleaned) throw new Error('no cleaned version looks the same');
      return { content: Buffer.from(cleaned.text) };
    }
    case 'animation': {
      const animated = sharp(content, { animated: true });
      return { content: await animated.webp(quality === null ? { lossless: true } : { quality }).toBuffer() };
    }
    case 'cropped': {
      if (!file.crop) throw new Error('nobody says where to cut');
      const order = { recipe: 'equal-looks', width, format, quality } as const;
      return encodeAt(await cutOut(content, file.crop), order, cropFacts(master, file.crop), options);
    }
    case 'still':
      throw new Error('where to cut needs a person’s eye');
    default:
      return encodeAt(content, { recipe, width, format, quality }, master, options);
  }
}

async function withoutNotes(
  content: Buffer,
  format: string,
  master: ImageFile,
  { keepCredits = false }: MakeOptions,
): Promise<Buffer> {
  const { orientation: stored = 1 } = await sharp(content).metadata();
  const orientation = master.turned ? stored : 1;
  const goes = new Set(removableKinds(master, false).map(([kind]) => kind));
  // In the file a profile is a profile; what it says was read when the file's facts were.
  const keeps = (kind: string) =>
    !goes.has(kind === 'colour profile' && goes.has('sRGB profile') ? 'sRGB profile' : kind);
  const credits = keepCredits ? asExif(await readCredits(content)) : undefined;
  // Names and turn stand in one segment: readers look into the first.
  return credits
    ? putExif(bareFile(content, format, keeps, 1), format, credits, orientation)
    : bareFile(content, format, keeps, orientation);
}

async function encodeAt(
  content: Buffer,
  { recipe, width, format, quality }: Pick<FileToMake, 'recipe' | 'width' | 'format' | 'quality'>,
  master: ImageFile,
  { thorough = false, keepCredits = false }: MakeOptions,
): Promise<MadeFile> {
  const order = measureOrder(master, { widths: [width], looks: 0, formats: [], drawings: [] });
  const pixels = await decodeAt(content, width, order.alpha);
  const exif = keepCredits ? asExif(await readCredits(content)) : undefined;
  const original = new Original(pixels);
  const likeness = async (file: Buffer) => original.decibels([file]);
  const make = async (made: Recipe): Promise<Buffer> => {
    const usual = await encode(pixels, made, { exif });
    if (!thorough) return usual;
    const patient = await encode(pixels, made, { thorough, exif });
    if (patient.length >= usual.length) return usual;
    const looksNoWorse =
      made.quality === null ||
      !canCompare(pixels) ||
      (await likeness(patient)) >= (await likeness(usual)) - sameLooks;
    return looksNoWorse ? patient : usual;
  };
  if (recipe === 'resized') {
    const own = ownRecipe({ ...order, quality: quality ?? order.quality });
    if (own) return { content: await make(own) };
    if (quality === null)
      throw new Error(`${master.format.toUpperCase()} files do not tell how they were encoded`);
  }
  if (format === 'png' || (format === 'webp' && quality === null)) {
    const wanted = { png: format === 'png', webp: format === 'webp' };
    const lossless = async (patiently: boolean) => {
      const encoder: typeof encode = (raw, made) => encode(raw, made, { thorough: patiently, exif });
      return (await lightestLossless(original, encoder, wanted))[format]?.content;
    };
    const usual = await lossless(false);
    const patient = thorough ? await lossless(true) : undefined;
    const content = usual && patient && patient.length < usual.length ? patient : usual;
    if (content) return { content };
  }
  const made = await make({ format: format as Recipe['format'], quality });
  return quality === null || !canCompare(pixels)
    ? { content: made }
    : { content: made, decibels: await likeness(made) };
}

/** Nobody sees less, dB. */
const sameLooks = 0.05;
