import type { DrawingSigns } from './drawing.js';
import type { Pixels } from './luma.js';

/** What a picture's pixels are like, which decides how it is stored best. `between` is also what cannot be told. */
export type PictureContent = 'graphic' | 'photo' | 'between';

/** Share of pixels equal to their left neighbour from which a picture may be a graphic, and up to which it is photo-like. */
const graphicFrom = 0.7;
const photoUpTo = 0.6;
/** Light falls off in small steps. Of the steps of a drawing that was never stored with losses, no more than this share is small. */
const mostGentle = 0.35;
/** In no more colours than these nothing is shaded, however near they are to each other. */
const fewColours = 64;

export interface FlatSigns {
  /** Share of pixels that equal their left neighbour in all channels, 0 to 1. */
  flat: number;
  /** Of the steps to the others, the share of at most 6 in every channel, 0 to 1. */
  gentle: number;
  /** Different colours, counted up to 65. */
  colours: number;
}

const gentleStep = 6;

/**
 * How a losslessly stored picture goes from pixel to pixel. Meaningful at the picture's own size only. What is wholly transparent is no part
 * of it.
 */
export function flatSigns({ data, width, height, channels }: Pixels): FlatSigns {
  const alpha = channels === 2 || channels === 4;
  const shown = channels - Number(alpha);
  let [equal, gentle, steps] = [0, 0, 0];
  const colours = new Set<number>();
  for (let y = 0; y < height; y++) {
    const start = y * width * channels;
    for (let at = start; at < start + width * channels; at += channels) {
      if (alpha && data[at + shown] === 0) continue;
      let [step, colour] = [0, 0];
      for (let channel = 0; channel < shown; channel++) {
        const value = data[at + channel] ?? 0;
        colour = colour * 256 + value;
        if (at > start) step = Math.max(step, Math.abs(value - (data[at - channels + channel] ?? 0)));
      }
      if (colours.size <= fewColours) colours.add(colour);
      if (at === start || (alpha && data[at - 1] === 0)) continue;
      steps++;
      if (step === 0) equal++;
      else if (step <= gentleStep) gentle++;
    }
  }
  return {
    flat: steps === 0 ? 0 : equal / steps,
    gentle: equal === steps ? 0 : gentle / (steps - equal),
    colours: colours.size,
  };
}

/** The kind of a losslessly stored picture. */
export function losslessContent({ flat, gentle, colours }: FlatSigns): PictureContent {
  if (flat >= graphicFrom && (gentle <= mostGentle || colours <= fewColours)) return 'graphic';
  return flat <= photoUpTo ? 'photo' : 'between';
}

/** Bounds of the kinds of lossily stored pictures; measured on pictures of every kind, see docs/pricing.md. */
const drawing = { beside: 0.01, fewColours: 0.995 };
/** Either hardly anything moves beside the edges, or there are many edges and little moves: thin pale lines are no edges. */
const stillEnough = [
  { edges: 0.005, still: 0, besideGround: 0.97 },
  { edges: 0.08, still: 0.9, besideGround: 0.8 },
];
const photograph = { beside: 0.05, fewColours: 0.9 };

/**
 * The kind of a lossily stored picture. That it is a drawing is said only where nothing speaks against it: what a drawing that is taken
 * for a photograph costs is small, what a photograph that is stored as a drawing costs is not.
 */
export function lossyContent(signs: DrawingSigns): PictureContent {
  const { edges, still, stillBesideGround, fewColours, beside } = signs;
  const isStill = stillEnough.some(
    (least) => edges >= least.edges && still >= least.still && stillBesideGround >= least.besideGround,
  );
  if (isStill && beside >= drawing.beside && fewColours >= drawing.fewColours) return 'graphic';
  return beside >= photograph.beside && (fewColours < photograph.fewColours || still === 0)
    ? 'photo'
    : 'between';
}
