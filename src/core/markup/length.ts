import type { Environment } from './environment.js';

const inch = 96;

/** Absolute units in CSS px. CSS Values and Units Level 4, section 6.2. */
const absolute: Record<string, number> = {
  px: 1,
  cm: inch / 2.54,
  mm: inch / 25.4,
  q: inch / 101.6,
  in: inch,
  pt: inch / 72,
  pc: inch / 6,
};

/**
 * Font-relative units as multiples of the initial font size, where no element's font applies. `ex`, `ch` and their
 * kin depend on the initial font; half an em is the fallback that CSS Values 4, section 6.1.1 names.
 */
const fontRelative: Record<string, number> = {
  em: 1,
  rem: 1,
  ex: 0.5,
  rex: 0.5,
  ch: 0.5,
  rch: 0.5,
  cap: 1,
  rcap: 1,
  ic: 1,
  ric: 1,
  lh: 1.2,
  rlh: 1.2,
};

/**
 * Viewport units: which side of the viewport one hundredth is taken of. CSS Values 4, section 6.1.2. Container units mean
 * the small viewport where there is no container, as in `sizes` and media queries. CSS Containment 3, section 6.
 */
const viewport = /^(?:[sld]?v|cq)(w|h|i|b|min|max)$/;

/**
 * Length in CSS px, or undefined when the unit is not a length.
 * The small, large and dynamic viewports are the same here: no browser controls slide in or out.
 */
export function lengthInPx(value: number, unit: string, environment: Environment): number | undefined {
  const fixed = absolute[unit];
  if (fixed !== undefined) return value * fixed;
  const relative = fontRelative[unit];
  if (relative !== undefined) return value * relative * environment.fontSize;
  const side = viewport.exec(unit)?.[1];
  if (side === undefined) return undefined;
  const { width, height } = environment;
  switch (side) {
    case 'w':
    case 'i':
      return (value * width) / 100;
    case 'h':
    case 'b':
      return (value * height) / 100;
    case 'min':
      return (value * Math.min(width, height)) / 100;
    default:
      return (value * Math.max(width, height)) / 100;
  }
}

export function isLengthUnit(unit: string): boolean {
  return unit in absolute || unit in fontRelative || viewport.test(unit);
}
