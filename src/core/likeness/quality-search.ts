/** One encode that was made while looking for a quality. */
export interface QualityTry {
  quality: number;
  bytes: number;
  /** Likeness to the original, dB. */
  decibels: number;
}

export type LossyFormat = 'webp' | 'avif';

/** Qualities from which the search starts, and how much likeness one step of quality gives, by the width of the picture. */
const starts: Record<LossyFormat, readonly { width: number; quality: number; slope: number }[]> = {
  webp: [
    { width: 320, quality: 80, slope: 0.25 },
    { width: 800, quality: 83, slope: 0.2 },
    { width: 1600, quality: 86, slope: 0.17 },
  ],
  avif: [
    { width: 320, quality: 59, slope: 0.14 },
    { width: 800, quality: 62, slope: 0.12 },
    { width: 1600, quality: 65, slope: 0.1 },
  ],
};

const usualGrowth = 0.22;
/** About one step of quality: so near to the target one more encode of the whole tells nothing that anybody would see, dB. */
const besideTarget = 0.1;
/** Encodes of a part of a picture that differ by less, dB, tell little of how the bytes of the whole grow. */
const farEnough = 0.3;

/** Below these nobody would call anything the same, whatever a mean over the picture says. */
const lowest: Record<LossyFormat, number> = { webp: 40, avif: 25 };
const highest = 98;
const clamp = (format: LossyFormat, quality: number) => Math.min(highest, Math.max(lowest[format], quality));

/** What is known of a picture before it is encoded. */
export interface SearchStart {
  /** The quality to try first. */
  quality: number;
  /** How much likeness one step of quality gives, dB. */
  slope: number;
  /** How the bytes grow with likeness where only one encode tells: per dB, natural logarithm. */
  growth: number;
  /** The search ends with an encode that is so near to the target, dB; with the nearest quality if left out. */
  enough?: number;
}

/** What is known of pictures of a width in general. */
function startFor(format: LossyFormat, width: number): SearchStart {
  const [first, second, third] = starts[format];
  if (!first || !second || !third) throw new RangeError(`No start is known for ${format}.`);
  const [low, high] = width < second.width ? [first, second] : [second, third];
  const part = Math.min(1, Math.max(0, Math.log(width / low.width) / Math.log(high.width / low.width)));
  return {
    quality: Math.round(low.quality + part * (high.quality - low.quality)),
    slope: low.slope + part * (high.slope - low.slope),
    growth: usualGrowth,
  };
}

/** What the encodes of a part of a picture tell of the whole. */
export function startAfter(
  format: LossyFormat,
  width: number,
  tries: readonly QualityTry[],
  target: number,
): SearchStart {
  const usual = startFor(format, width);
  const [a, b] = around(tries, target);
  return {
    quality: Math.round(clamp(format, qualityAt(tries, target, usual.slope))),
    slope: slopeOf(a, b, usual.slope),
    growth: growthOf(a, b, usual.growth, farEnough),
    enough: besideTarget,
  };
}

/**
 * The quality to try next, or undefined when the neighbours of the target are known well enough.
 * @param tries the encodes made so far for this picture, width and format
 * @param target likeness to reach, dB
 * @param start what is known beforehand; what is usual at this width if left out
 */
export function nextQuality(
  format: LossyFormat,
  width: number,
  tries: readonly QualityTry[],
  target: number,
  { quality: start, slope, enough = 0 }: SearchStart = startFor(format, width),
): number | undefined {
  if (tries.length === 0) return start;
  const near = tries.some(({ decibels }) => Math.abs(decibels - target) <= nearEnough);
  const bracketed =
    tries.some(({ decibels }) => decibels >= target) && tries.some(({ decibels }) => decibels < target);
  if (tries.some(({ decibels }) => Math.abs(decibels - target) <= enough)) return undefined;
  if (tries.length >= (near ? usualTries : bracketed ? mostTries : searchTries)) return undefined;
  // What begins far from the target was misled by what was known beforehand.
  const likely = near ? slope : startFor(format, width).slope;
  const wanted = Math.round(clamp(format, qualityAt(tries, target, likely)));
  return tries.some(({ quality }) => quality === wanted) ? undefined : wanted;
}

/** So many encodes for one picture, width and format are enough for nearly all; … */
const usualTries = 3;
/** … where none of them came so near to the target, dB, one more is made. */
const nearEnough = 0.4;
const mostTries = 4;
/** What was not encoded has no price: while all tries lie on one side of the target, the search goes on. */
const searchTries = 8;

/** The two tries that tell most about the target: those around it if there are, else the two nearest. */
function around(tries: readonly QualityTry[], target: number): [QualityTry, QualityTry | undefined] {
  const sorted = [...tries].sort((a, b) => a.quality - b.quality);
  const above = sorted.find(({ decibels }) => decibels >= target);
  const below = sorted.findLast(({ decibels }) => decibels < target);
  if (above && below) return [below, above];
  const nearest = [...tries].sort((a, b) => Math.abs(a.decibels - target) - Math.abs(b.decibels - target));
  const [first, second] = nearest;
  if (!first) throw new RangeError('No encode was tried.');
  return [first, second];
}

function qualityAt(tries: readonly QualityTry[], target: number, usualSlope: number): number {
  const [a, b] = around(tries, target);
  return a.quality + (target - a.decibels) / slopeOf(a, b, usualSlope);
}

function slopeOf(a: QualityTry, b: QualityTry | undefined, usual: number): number {
  const measured = b && b.quality !== a.quality ? (b.decibels - a.decibels) / (b.quality - a.quality) : 0;
  // Two tries side by side say little of the slope: the encoder's own steps are uneven.
  return measured > usual / 4 ? measured : usual;
}

function growthOf(a: QualityTry, b: QualityTry | undefined, usual: number, least = 0.01): number {
  if (!b || Math.abs(b.decibels - a.decibels) <= least) return usual;
  const growth = Math.log(b.bytes / a.bytes) / (b.decibels - a.decibels);
  // Encoders that pay more bytes for less likeness would lead astray.
  return growth > 0 && growth < 1 ? growth : usual;
}

export interface EqualLooks {
  /** The whole quality nearest to the target. */
  quality: number;
  /** Bytes at exactly the target, between the encodes around it. */
  bytes: number;
  /** Likeness of the nearest try, dB. */
  decibels: number;
}

/**
 * What the encode weighs that looks as much like the original as the target says. Between two tries the logarithm of the bytes is
 * straight over the dB.
 * @throws {RangeError} without tries
 */
export function equalLooks(
  format: LossyFormat,
  width: number,
  tries: readonly QualityTry[],
  target: number,
  start: SearchStart = startFor(format, width),
): EqualLooks {
  const [a, b] = around(tries, target);
  const growth = growthOf(a, b, start.growth);
  const best = [...tries].sort((x, y) => Math.abs(x.decibels - target) - Math.abs(y.decibels - target))[0];
  const quality =
    best && Math.abs(best.decibels - target) <= (start.enough ?? 0)
      ? best.quality
      : Math.round(clamp(format, qualityAt(tries, target, start.slope)));
  // Beyond the tries it is said of the outermost one, but for what rounds to it.
  const [least, most] = [
    Math.min(...tries.map(({ decibels }) => decibels)) - nearEnough,
    Math.max(...tries.map(({ decibels }) => decibels)) + nearEnough,
  ];
  const within = Math.min(most, Math.max(least, target));
  const nearest = [...tries].sort((x, y) => Math.abs(x.quality - quality) - Math.abs(y.quality - quality))[0];
  return {
    quality,
    bytes: Math.max(1, Math.round(a.bytes * Math.exp(growth * (within - a.decibels)))),
    decibels: nearest?.decibels ?? a.decibels,
  };
}
