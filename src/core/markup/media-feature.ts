import { T, numberOf, type CssToken, TokenReader } from './css-tokens.js';
import type { Environment } from './environment.js';
import { lengthInPx } from './length.js';
import { evaluateMath, isMathFunction, parseMath, type MathNode } from './math.js';

/** A value in a media feature. Media Queries Level 4, section 2.4.3. */
export type FeatureValue =
  | { kind: 'number'; value: number; integer: boolean }
  | { kind: 'dimension'; value: number; unit: string }
  | { kind: 'ratio'; value: number }
  | { kind: 'ident'; word: string }
  | { kind: 'math'; math: MathNode };

export type Comparison = '<' | '<=' | '>' | '>=' | '=';

interface RangeFeature {
  type: 'length' | 'ratio' | 'resolution' | 'integer';
  actual: (environment: Environment) => number;
}

/**
 * Media widths compare with this slack in Chromium (LayoutUnit, 1/64 px), where the standard compares exactly:
 * at 600.01 CSS px `(max-width: 600px)` still holds.
 */
const lengthTolerance = 1 / 64;

const rangeFeatures: Record<string, RangeFeature> = {
  width: { type: 'length', actual: ({ width }) => width },
  height: { type: 'length', actual: ({ height }) => height },
  'device-width': { type: 'length', actual: ({ width }) => width },
  'device-height': { type: 'length', actual: ({ height }) => height },
  'aspect-ratio': { type: 'ratio', actual: ({ width, height }) => width / height },
  'device-aspect-ratio': { type: 'ratio', actual: ({ width, height }) => width / height },
  resolution: { type: 'resolution', actual: ({ density }) => density },
  '-webkit-device-pixel-ratio': { type: 'integer', actual: ({ density }) => density },
  color: { type: 'integer', actual: () => 8 },
  'color-index': { type: 'integer', actual: () => 0 },
  monochrome: { type: 'integer', actual: () => 0 },
  'horizontal-viewport-segments': { type: 'integer', actual: () => 1 },
  'vertical-viewport-segments': { type: 'integer', actual: () => 1 },
};

/** Discrete features: the words each may take, and the one that holds. `none`-like words are false alone. */
const discreteFeatures: Record<string, { words: string[]; actual: (environment: Environment) => string }> = {
  orientation: {
    words: ['portrait', 'landscape'],
    actual: ({ width, height }) => (height >= width ? 'portrait' : 'landscape'),
  },
  hover: { words: ['none', 'hover'], actual: ({ touch }) => (touch ? 'none' : 'hover') },
  'any-hover': { words: ['none', 'hover'], actual: ({ touch }) => (touch ? 'none' : 'hover') },
  pointer: { words: ['none', 'coarse', 'fine'], actual: ({ touch }) => (touch ? 'coarse' : 'fine') },
  'any-pointer': { words: ['none', 'coarse', 'fine'], actual: ({ touch }) => (touch ? 'coarse' : 'fine') },
  'prefers-color-scheme': { words: ['light', 'dark'], actual: ({ colorScheme }) => colorScheme },
  'prefers-reduced-motion': { words: ['no-preference', 'reduce'], actual: () => 'no-preference' },
  'prefers-reduced-data': { words: ['no-preference', 'reduce'], actual: () => 'no-preference' },
  'prefers-reduced-transparency': { words: ['no-preference', 'reduce'], actual: () => 'no-preference' },
  'prefers-contrast': { words: ['no-preference', 'more', 'less', 'custom'], actual: () => 'no-preference' },
  'forced-colors': { words: ['none', 'active'], actual: () => 'none' },
  'display-mode': {
    words: [
      'browser',
      'fullscreen',
      'minimal-ui',
      'standalone',
      'window-controls-overlay',
      'picture-in-picture',
    ],
    actual: () => 'browser',
  },
  'color-gamut': { words: ['srgb', 'p3', 'rec2020'], actual: () => 'srgb' },
  'dynamic-range': { words: ['standard', 'high'], actual: () => 'standard' },
  scripting: { words: ['none', 'initial-only', 'enabled'], actual: () => 'enabled' },
  update: { words: ['none', 'slow', 'fast'], actual: () => 'fast' },
  'overflow-block': { words: ['none', 'scroll', 'paged'], actual: () => 'scroll' },
  'overflow-inline': { words: ['none', 'scroll'], actual: () => 'scroll' },
};

const falseAlone = new Set(['none', 'no-preference', 'custom']);

/** Reads one value from tokens between comparison signs. Undefined when it is not a value. */
export function readFeatureValue(tokens: readonly CssToken[]): FeatureValue | undefined {
  const reader = new TokenReader(tokens);
  reader.skipSpace();
  const token = reader.peek();
  if (!token) return undefined;
  if (token.type === T.Function && isMathFunction(token.text.slice(0, -1))) {
    const math = parseMath(reader, 'media');
    reader.skipSpace();
    return math && reader.done ? { kind: 'math', math } : undefined;
  }
  reader.next();
  const first = plainValue(token);
  reader.skipSpace();
  if (reader.done) return first;
  // <ratio> = <number> / <number>
  const slash = reader.next();
  reader.skipSpace();
  const second = reader.next();
  reader.skipSpace();
  if (slash?.type !== T.Delim || slash.text !== '/' || second?.type !== T.Number || !reader.done)
    return undefined;
  if (first?.kind !== 'number') return undefined;
  const { value } = numberOf(second);
  if (first.value < 0 || value < 0) return undefined;
  // A ratio over zero, 0/0 too, is infinite. CSS Values 4, section 5.7.1.
  return { kind: 'ratio', value: value === 0 ? Number.POSITIVE_INFINITY : first.value / value };
}

function plainValue(token: CssToken): FeatureValue | undefined {
  if (token.type === T.Number)
    return { kind: 'number', value: numberOf(token).value, integer: /^[+-]?\d+$/.test(token.text) };
  if (token.type === T.Dimension) return { kind: 'dimension', ...numberOf(token) };
  if (token.type === T.Ident) return { kind: 'ident', word: token.text.toLowerCase() };
  return undefined;
}

/** The value in the feature's own measure (CSS px, ratio, dots per px, whole number), or undefined. */
function measure(
  value: FeatureValue,
  type: RangeFeature['type'],
  environment: Environment,
): number | undefined {
  if (value.kind === 'math') {
    if (value.math.length !== (type === 'length')) return undefined;
    const result = evaluateMath(value.math, environment);
    return type === 'integer' ? Math.round(result) : result;
  }
  switch (type) {
    case 'length':
      if (value.kind === 'dimension') return lengthInPx(value.value, value.unit, environment);
      return value.kind === 'number' && value.value === 0 ? 0 : undefined;
    case 'ratio':
      if (value.kind === 'ratio') return value.value;
      return value.kind === 'number' && value.value >= 0 ? value.value : undefined;
    case 'resolution':
      return value.kind === 'dimension' ? resolution(value.value, value.unit) : undefined;
    case 'integer':
      return value.kind === 'number' ? value.value : undefined;
  }
}

/** Dots per CSS px. CSS Values 4, section 7.4. */
function resolution(value: number, unit: string): number | undefined {
  switch (unit) {
    case 'x':
    case 'dppx':
      return value;
    case 'dpi':
      return value / 96;
    case 'dpcm':
      return (value * 2.54) / 96;
    default:
      return undefined;
  }
}

function compare(actual: number, sign: Comparison, wanted: number, tolerance: number): boolean {
  switch (sign) {
    case '=':
      return Math.abs(actual - wanted) <= tolerance;
    case '<':
      return actual < wanted - tolerance;
    case '<=':
      return actual <= wanted + tolerance;
    case '>':
      return actual > wanted + tolerance;
    case '>=':
      return actual >= wanted - tolerance;
  }
}

/** Whether a name is a feature that takes `min-`/`max-` and comparisons. */
export const isRangeFeature = (name: string) => name in rangeFeatures;

/** Whether `(name sign value)` holds; undefined when feature or value is not known. */
export function rangeHolds(
  name: string,
  sign: Comparison,
  value: FeatureValue,
  environment: Environment,
): boolean | undefined {
  const feature = rangeFeatures[name];
  if (!feature) return undefined;
  const wanted = measure(value, feature.type, environment);
  if (wanted === undefined) return undefined;
  const tolerance = feature.type === 'length' ? lengthTolerance : 1e-6;
  return compare(feature.actual(environment), sign, wanted, tolerance);
}

/** Whether `(name: word)` holds; undefined when feature or word is not known. */
export function discreteHolds(
  name: string,
  value: FeatureValue,
  environment: Environment,
): boolean | undefined {
  if (name === 'grid' && value.kind === 'number')
    return value.value === 0 ? true : value.value === 1 ? false : undefined;
  const feature = discreteFeatures[name];
  if (!feature || value.kind !== 'ident' || !feature.words.includes(value.word)) return undefined;
  const actual = feature.actual(environment);
  return actual === value.word || (name === 'color-gamut' && value.word === 'srgb');
}

/** Whether `(name)` alone holds: any value but zero or `none`. Media Queries 4, section 2.4.2. */
export function holdsAlone(name: string, environment: Environment): boolean | undefined {
  if (name === 'grid') return false;
  const range = rangeFeatures[name];
  if (range) return range.actual(environment) !== 0;
  const discrete = discreteFeatures[name];
  return discrete && !falseAlone.has(discrete.actual(environment));
}
