import type { Config } from 'svgo';
import { decodeBack } from './encode.js';
import { Original } from './likeness.js';
import { openPicture } from './open.js';

/** A drawing is compared as it looks at this width, px: wider than most are shown. */
const lookWidth = 1000;
/** Coordinates may move by so many px at that width; where that shows, finer steps are tried. */
const mostMoved = 0.25;
const mostDecimals = 6;
/** CSS px in which an SVG is drawn by itself. */
const usualDensity = 72;

export interface CleanedVector {
  text: string;
  /** Of its coordinates. */
  decimals: number;
}

/**
 * A vector picture without what it carries and nobody sees, with coordinates as coarse as looks the same. External references are
 * never followed.
 * @param width of the drawing by itself, CSS px
 * @returns undefined where it draws nothing here, so that nothing could be compared
 * @throws {Error} when it is no well-formed SVG
 */
export async function cleanVector(content: Buffer, width: number): Promise<CleanedVector | undefined> {
  const text = content.toString('utf8');
  const drawn = await draw(content, width);
  if (!drawn) return undefined;
  // Read only when there is a drawing.
  const { optimize } = await import('svgo');
  const original = new Original(await decodeBack(drawn, true));
  for (let decimals = fewestDecimals(text, width); decimals <= mostDecimals; decimals++) {
    const { data } = optimize(text, configFor(text, decimals));
    const cleaned = await draw(Buffer.from(data), width);
    if (cleaned && (await original.looksTheSame(cleaned))) return { text: data, decimals };
  }
  return undefined;
}

/** So many decimals that nothing moves by more than may be, by the units in which the drawing is written. */
function fewestDecimals(text: string, width: number): number {
  const [, , units] =
    /<svg\b[^>]*?\sviewBox\s*=\s*["']\s*([^"']+)/
      .exec(text)?.[1]
      ?.split(/[\s,]+/)
      .map(Number) ?? [];
  const across = units !== undefined && units > 0 ? units : Math.max(1, width);
  return Math.min(mostDecimals, Math.max(0, Math.ceil(Math.log10(lookWidth / across / 2 / mostMoved))));
}

/** Parts that other files ask for by name: a drawing that holds several keeps their names, and what no part of it shows. */
const holdsParts = /<(symbol|view)\b|:target/i;

function configFor(text: string, decimals: number): Config {
  const overrides = holdsParts.test(text)
    ? { cleanupIds: false as const, removeHiddenElems: false as const }
    : {};
  return {
    multipass: true,
    floatPrecision: decimals,
    plugins: [{ name: 'preset-default', params: { overrides } }],
  };
}

/** The drawing as it looks, or undefined where nothing is to be seen. */
async function draw(content: Buffer, width: number): Promise<Buffer | undefined> {
  const density = Math.min(100_000, Math.max(1, (usualDensity * lookWidth) / Math.max(1, width)));
  const picture = await openPicture(content, { density }).resize({ width: lookWidth }).png().toBuffer();
  const { channels } = await openPicture(picture).stats();
  return channels.some(({ min, max }) => min !== max) ? picture : undefined;
}
