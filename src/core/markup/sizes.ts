import { T, componentEnds, cssTokens, numberOf, TokenReader, type CssToken } from './css-tokens.js';
import type { Environment } from './environment.js';
import { isLengthUnit } from './length.js';
import { evaluateMath, parseMath, type MathNode } from './math.js';
import { conditionHolds, parseMediaCondition, type MediaCondition } from './media-condition.js';

/** One `<source-size>` of the list. HTML standard, 4.8.4.2.2 "Sizes attributes". */
export interface SourceSize {
  condition?: MediaCondition;
  size: MathNode;
  /** The entry as written. */
  text: string;
}

export interface SourceSizeList {
  /** The list begins with `auto`. */
  auto: boolean;
  entries: SourceSize[];
  /** Entries that were passed over, with the reason. */
  errors: { text: string; why: string }[];
}

const zero: MathNode = { op: 'value', value: 0, unit: 'px', length: true };

/**
 * Parses a `sizes` attribute. HTML standard, 4.8.4.3.11 "Parsing a sizes attribute".
 *
 * Where Chromium leaves the standard this follows Chromium: a list that begins with `auto` ends there (the
 * standard goes on when auto does not apply), and only calc(), min(), max() and clamp() are math functions.
 */
export function parseSizes(text: string): SourceSizeList {
  const list: SourceSizeList = { auto: false, entries: [], errors: [] };
  const tokens = cssTokens(text);
  const start = new TokenReader(tokens);
  start.skipSpace();
  if (start.isIdent('auto')) return { ...list, auto: true };
  const ends = componentEnds(tokens);
  let from = 0;
  for (let at = 0; at <= tokens.length; at = ends[at] ?? at + 1) {
    if (at < tokens.length && tokens[at]?.type !== T.Comma) continue;
    readEntry(tokens, from, at, ends, list);
    from = at + 1;
  }
  return list;
}

function readEntry(
  tokens: readonly CssToken[],
  from: number,
  to: number,
  ends: Int32Array,
  list: SourceSizeList,
): void {
  // The size is the last component value before the comma.
  let last = -1;
  for (let at = from; at < to; at = ends[at] ?? at + 1) if (tokens[at]?.type !== T.WhiteSpace) last = at;
  const text = () =>
    tokens
      .slice(from, to)
      .map((token) => token.text)
      .join('')
      .trim();
  if (last < 0) {
    if (to < tokens.length) note(list, text, 'it is empty');
    return;
  }
  const size = readSize(new TokenReader(tokens, last, to));
  if (!size) {
    note(list, text, 'it does not end in a length of 0 or more');
    return;
  }
  const before = tokens.slice(from, last);
  if (before.every(({ type }) => type === T.WhiteSpace)) {
    list.entries.push({ size, text: text() });
    return;
  }
  const condition = parseMediaCondition(before);
  if (condition) list.entries.push({ condition, size, text: text() });
  else note(list, text, 'its media condition does not parse');
}

/** Nobody reads more errors of one attribute than this. */
const mostErrors = 20;

function note({ errors }: SourceSizeList, text: () => string, why: string): void {
  if (errors.length < mostErrors) errors.push({ text: text(), why });
}

function readSize(reader: TokenReader): MathNode | undefined {
  const token = reader.peek();
  if (token?.type === T.Function) {
    const math = parseMath(reader, 'sizes');
    return math?.length ? math : undefined;
  }
  if (token?.type === T.Dimension) {
    const { value, unit } = numberOf(token);
    return isLengthUnit(unit) && value >= 0 ? { op: 'value', value, unit, length: true } : undefined;
  }
  return token?.type === T.Number && numberOf(token).value === 0 ? zero : undefined;
}

/** Chromium clamps source sizes to float32. */
const largestFloat = 3.4028234663852886e38;

export interface ChosenSize {
  /** Source size, CSS px, 0 or more. */
  size: number;
  /** Index of the entry in the list; -1 for `auto`, -2 for the default. */
  entry: number;
}

export const autoEntry = -1;
export const defaultEntry = -2;

/**
 * The source size that applies: the first entry whose condition holds, else 100vw. Of `auto` Chromium takes whole CSS px, which the standard
 * (4.8.4.3.9, "auto") does not.
 * @param autoWidth the slot's width for `auto`, CSS px; undefined when `auto` does not apply
 */
export function chooseSize(
  list: SourceSizeList,
  environment: Environment,
  autoWidth: number | undefined,
): ChosenSize {
  if (list.auto) {
    return autoWidth === undefined
      ? { size: environment.width, entry: defaultEntry }
      : { size: Math.round(autoWidth), entry: autoEntry };
  }
  for (let index = 0; index < list.entries.length; index++) {
    const entry = list.entries[index];
    if (!entry) continue;
    const { condition, size } = entry;
    if (condition && conditionHolds(condition, environment) !== true) continue;
    const value = evaluateMath(size, environment);
    return { size: Math.min(largestFloat, Math.max(0, Number.isNaN(value) ? 0 : value)), entry: index };
  }
  return { size: environment.width, entry: defaultEntry };
}
