import type { SlotSample } from './slot-pieces.js';

/** How far a written size may be from a slot, CSS px. */
export type AllowedError = (slot: number) => number;

/** How far a written size may be from the slot: 1 CSS px or half a percent, whichever is more. */
export const allowedError: AllowedError = (slot) => Math.max(1, slot * 0.005);

/** Where the box is as wide as `sizes` says, the text must not make it visibly another. */
export const boxError: AllowedError = () => 0.5;

/** A written length for a stretch of widths. */
export interface FittedSize {
  text: string;
  /** Part of the viewport's width. */
  slope: number;
  /** CSS px. */
  offset: number;
}

/** A hair less than what is allowed, so that float32 in the browser does not tip a value over. */
const margin = 0.98;
const mostDecimals = 4;

/**
 * The shortest length that is near enough to the slot at every sample: `344px`, `50vw`, `calc(50vw - 32px)` or `calc(960px - 8vw)`, with
 * as few digits as do.
 * @returns undefined where no straight line is
 */
export function fitSize(
  samples: readonly SlotSample[],
  allowed: AllowedError = allowedError,
): FittedSize | undefined {
  const flat = offsetRange(samples, 0, allowed);
  if (flat) {
    const text = tidyNumber(flat.low, flat.high);
    return { text: `${text}px`, slope: 0, offset: Number(text) };
  }
  const slope = leastSquaresSlope(samples);
  let best: { size: FittedSize; burden: number } | undefined;
  for (let decimals = 0; decimals <= mostDecimals; decimals++) {
    for (const share of nearby(slope * 100, decimals)) {
      const size = withSlope(samples, share, decimals, allowed);
      if (!size) continue;
      const burden = size.text.length + errorWeight * usedError(samples, size, allowed);
      if (!best || burden < best.burden) best = { size, burden };
    }
    if (best) return exactFraction(samples, slope, best.size, allowed) ?? best.size;
  }
  return undefined;
}

/** Columns of a grid; others are whole hundredths of the viewport, or nearly so. */
const denominators = [3, 6, 7, 9, 11, 12];
/** A text that uses up so little of the allowed error is what the style sheet says. */
const exact = 0.1;
/** A slope nearer to a fraction than this may be that fraction. */
const nearFraction = 0.003;
/** What is taken off the whole width before it is divided is mostly a whole number, CSS px. */
const halfPixel = 0.5;

/** `calc((100vw - 96px) / 3)`, where that is the slot and shorter texts only come near it. */
function exactFraction(
  samples: readonly SlotSample[],
  slope: number,
  shorter: FittedSize,
  allowed: AllowedError,
): FittedSize | undefined {
  if (usedError(samples, shorter, allowed) <= exact) return undefined;
  for (const parts of denominators) {
    const share = Math.round(slope * parts);
    if (share < 1 || share >= parts || Math.abs(share / parts - slope) > nearFraction) continue;
    const range = offsetRange(samples, share / parts, allowed);
    // Where both can be cut down they are another fraction.
    if (!range || denominators.some((less) => less < parts && (share * less) % parts === 0)) continue;
    const middle = ((range.low + range.high) / 2) * (parts / share);
    const taken = Number(tidyNumber(middle - halfPixel, middle + halfPixel));
    const sum = taken === 0 ? '100vw' : `(100vw ${taken < 0 ? '-' : '+'} ${Math.abs(taken)}px)`;
    const text = `calc(${sum}${share === 1 ? '' : ` * ${share}`} / ${parts})`;
    const size = { text, slope: share / parts, offset: (taken * share) / parts };
    if (usedError(samples, size, allowed) <= exact) return size;
  }
  return undefined;
}

/**
 * A text that uses up the allowed error is worth this many characters less than one that is exact: `calc(100vw - 32px)` is what
 * the style sheet says, though `calc(99vw - 28px)` is shorter and would do.
 */
const errorWeight = 4;

/** Largest error as a part of what is allowed, 0 to 1. */
function usedError(
  samples: readonly SlotSample[],
  { slope, offset }: FittedSize,
  allowed: AllowedError,
): number {
  return samples.reduce(
    (most, { viewport, slot }) => Math.max(most, Math.abs(slope * viewport + offset - slot) / allowed(slot)),
    0,
  );
}

function withSlope(
  samples: readonly SlotSample[],
  share: number,
  decimals: number,
  allowed: AllowedError,
): FittedSize | undefined {
  if (share === 0) return undefined;
  const range = offsetRange(samples, share / 100, allowed);
  if (!range) return undefined;
  const vw = `${trimmed(Math.abs(share), decimals)}vw`;
  if (share < 0) {
    // A width with an upper limit, from which margins grow with the window.
    const text = tidyNumber(range.low, range.high);
    return { text: `calc(${text}px - ${vw})`, slope: share / 100, offset: Number(text) };
  }
  if (range.low <= 0 && range.high >= 0) return { text: vw, slope: share / 100, offset: 0 };
  const text = tidyNumber(range.low, range.high);
  const offset = Number(text);
  if (offset === 0) return { text: vw, slope: share / 100, offset: 0 };
  const sign = offset < 0 ? '-' : '+';
  return { text: `calc(${vw} ${sign} ${text.replace('-', '')}px)`, slope: share / 100, offset };
}

/** Values next to a number with so many decimals: itself rounded, and one step each way. */
function nearby(value: number, decimals: number): number[] {
  const step = 10 ** -decimals;
  const middle = Math.round(value / step);
  return [middle, middle - 1, middle + 1].map((count) => Number((count * step).toFixed(decimals)));
}

/** Which offsets bring a line of this slope near enough to all samples. */
function offsetRange(
  samples: readonly SlotSample[],
  slope: number,
  allowedAt: AllowedError,
): { low: number; high: number } | undefined {
  let low = Number.NEGATIVE_INFINITY;
  let high = Number.POSITIVE_INFINITY;
  for (const { viewport, slot } of samples) {
    const allowed = allowedAt(slot) * margin;
    const offset = slot - slope * viewport;
    low = Math.max(low, offset - allowed);
    high = Math.min(high, offset + allowed);
  }
  return low <= high ? { low, high } : undefined;
}

/** The number with the fewest decimals in a range; of those the one nearest to the middle. */
function tidyNumber(low: number, high: number): string {
  const middle = (low + high) / 2;
  for (let decimals = 0; decimals < mostDecimals; decimals++) {
    const value = Number(middle.toFixed(decimals));
    if (value >= low && value <= high) return trimmed(value, decimals);
  }
  return trimmed(middle, mostDecimals);
}

function trimmed(value: number, decimals: number): string {
  const text = value.toFixed(decimals);
  return text.includes('.') ? text.replace(/\.?0+$/, '') : text.replace(/^-0$/, '0');
}

function leastSquaresSlope(samples: readonly SlotSample[]): number {
  const count = samples.length;
  const meanX = samples.reduce((sum, { viewport }) => sum + viewport, 0) / count;
  const meanY = samples.reduce((sum, { slot }) => sum + slot, 0) / count;
  let upper = 0;
  let lower = 0;
  for (const { viewport, slot } of samples) {
    upper += (viewport - meanX) * (slot - meanY);
    lower += (viewport - meanX) ** 2;
  }
  return lower === 0 ? 0 : upper / lower;
}
