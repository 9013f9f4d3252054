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

/** Below these nobody would call anything the same, whatever a mean over the picture says. */
const lowest: Record<LossyFormat, number> = { webp: 40, avif: 25 };
const highest = 98;
const clamp = (format: LossyFormat, quality: number) => Math.min(highest, Math.max(lowest[format], quality));

function startFor(format: LossyFormat, width: number): { quality: number; slope: number } {
  const [first, second, third] = starts[format];
  if (!first || !second || !third) throw new RangeError(`No start is known for ${format}.`);
  const [low, high] = width < second.width ? [first, second] : [second, third];
  const part = Math.min(1, Math.max(0, Math.log(width / low.width) / Math.log(high.width / low.width)));
  return {
    quality: Math.round(low.quality + part * (high.quality - low.quality)),
    slope: low.slope + part * (high.slope - low.slope),
  };
}

/**
 * The quality to try next, or undefined when the neighbours of the target are known well enough.
 * @param tries the encodes made so far for this picture, width and format
 * @param target likeness to reach, dB
 */
export function nextQuality(
  format: LossyFormat,
  width: number,
  tries: readonly QualityTry[],
  target: number,
): number | undefined {
  const { quality: start, slope } = startFor(format, width);
  if (tries.length === 0) return start;
  const near = tries.some(({ decibels }) => Math.abs(decibels - target) <= nearEnough);
  const bracketed =
    tries.some(({ decibels }) => decibels >= target) && tries.some(({ decibels }) => decibels < target);
  if (tries.length >= (near ? usualTries : bracketed ? mostTries : searchTries)) return undefined;
  const wanted = Math.round(clamp(format, qualityAt(tries, target, slope)));
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
  const measured = b && b.quality !== a.quality ? (b.decibels - a.decibels) / (b.quality - a.quality) : 0;
  // Two tries side by side say little of the slope: the encoder's own steps are uneven.
  const slope = measured > usualSlope / 4 ? measured : usualSlope;
  return a.quality + (target - a.decibels) / slope;
}

export interface EqualLooks {
  /** The whole quality nearest to the target. */
  quality: number;
  /** Bytes at exactly the target, between the encodes around it. */
  bytes: number;
  /** Likeness of the nearest try, dB. */
  decibels: number;
}

/** How the bytes grow with likeness where only one encode tells: per dB, natural logarithm. */
const usualGrowth = 0.22;

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
): EqualLooks {
  const [a, b] = around(tries, target);
  const growth =
    b && Math.abs(b.decibels - a.decibels) > 0.01
      ? Math.log(b.bytes / a.bytes) / (b.decibels - a.decibels)
      : usualGrowth;
  // Encoders that pay more bytes for less likeness would lead astray: then the usual growth is taken.
  const sane = growth > 0 && growth < 1 ? growth : usualGrowth;
  const quality = Math.round(clamp(format, qualityAt(tries, target, startFor(format, width).slope)));
  // Beyond the tries it is said of the outermost one, but for what rounds to it.
  const [least, most] = [
    Math.min(...tries.map(({ decibels }) => decibels)) - nearEnough,
    Math.max(...tries.map(({ decibels }) => decibels)) + nearEnough,
  ];
  const within = Math.min(most, Math.max(least, target));
  const nearest = [...tries].sort((x, y) => Math.abs(x.quality - quality) - Math.abs(y.quality - quality))[0];
  return {
    quality,
    bytes: Math.max(1, Math.round(a.bytes * Math.exp(sane * (within - a.decibels)))),
    decibels: nearest?.decibels ?? a.decibels,
  };
}
