import { T, numberOf, type TokenReader } from './css-tokens.js';
import type { Environment } from './environment.js';
import { isLengthUnit, lengthInPx } from './length.js';

/** A parsed calculation. `length` says whether it is a length (CSS px) or a plain number. */
export type MathNode =
  | { op: 'value'; value: number; unit: string; length: boolean }
  | { op: 'sum' | 'product'; terms: MathNode[]; length: boolean }
  | { op: 'negate' | 'invert'; of: MathNode; length: boolean }
  | { op: 'min' | 'max' | 'clamp'; terms: MathNode[]; length: boolean };

export type MathDialect = 'sizes' | 'media';

/**
 * The functions that Chromium takes in `sizes`; CSS Values 4 has more. The legacy name `-webkit-calc` is another name of
 * calc() for Chromium's style sheets and media queries, but not for its `sizes`.
 */
const functions = new Set(['calc', 'min', 'max', 'clamp']);

/** Calculations nested deeper than this are refused, as browsers do with absurd nesting. */
const deepest = 400;

export const isMathFunction = (name: string) => functions.has(plainName(name));

const plainName = (name: string) => name.toLowerCase().replace(/^-webkit-calc$/, 'calc');

/**
 * Parses a math function at the reader, its Function token included, as far as its closing parenthesis.
 * CSS Values and Units Level 4, section 10.
 * @param dialect where it stands: Chromium reads `sizes` with a parser of its own
 * @returns undefined when it is not a valid calculation of numbers and lengths
 */
export function parseMath(reader: TokenReader, dialect: MathDialect, depth = 0): MathNode | undefined {
  const opening = reader.next();
  if (opening?.type !== T.Function || depth > deepest) return undefined;
  const written = opening.text.slice(0, -1);
  const name = dialect === 'media' ? plainName(written) : written.toLowerCase();
  if (!functions.has(name)) return undefined;
  const terms: MathNode[] = [];
  do {
    const term = parseSum(reader, dialect, depth + 1);
    if (!term) return undefined;
    terms.push(term);
    reader.skipSpace();
  } while (reader.peek()?.type === T.Comma && reader.next());
  if (!closeParenthesis(reader)) return undefined;
  const [first] = terms;
  if (!first || terms.some(({ length }) => length !== first.length)) return undefined;
  if (name === 'calc') return terms.length === 1 ? first : undefined;
  if (name === 'clamp' && terms.length !== 3) return undefined;
  return { op: name as 'min' | 'max' | 'clamp', terms, length: first.length };
}

/** A function left open at the end of the text is closed there. CSS Syntax 3, 5.4.9. */
function closeParenthesis(reader: TokenReader): boolean {
  if (reader.done) return true;
  return reader.next()?.type === T.RightParenthesis;
}

function parseSum(reader: TokenReader, dialect: MathDialect, depth: number): MathNode | undefined {
  const terms: MathNode[] = [];
  const first = parseProduct(reader, dialect, depth);
  if (!first) return undefined;
  terms.push(first);
  for (;;) {
    const before = reader.at;
    const spaceBefore = reader.skipSpace();
    const sign = reader.peek();
    if (sign?.type !== T.Delim || (sign.text !== '+' && sign.text !== '-')) {
      reader.at = before;
      break;
    }
    reader.next();
    // The operators + and - need white space on both sides. CSS Values 4, section 10.1.
    if (!spaceBefore || !reader.skipSpace()) return undefined;
    const term = parseProduct(reader, dialect, depth);
    if (!term || term.length !== first.length) return undefined;
    terms.push(sign.text === '+' ? term : { op: 'negate', of: term, length: term.length });
  }
  return terms.length === 1 ? first : { op: 'sum', terms, length: first.length };
}

function parseProduct(reader: TokenReader, dialect: MathDialect, depth: number): MathNode | undefined {
  const first = parseValue(reader, dialect, depth);
  if (!first) return undefined;
  const terms: MathNode[] = [first];
  let length = first.length;
  for (;;) {
    const before = reader.at;
    reader.skipSpace();
    const sign = reader.peek();
    if (sign?.type !== T.Delim || (sign.text !== '*' && sign.text !== '/')) {
      reader.at = before;
      break;
    }
    reader.next();
    const term = parseValue(reader, dialect, depth);
    if (!term) return undefined;
    if (sign.text === '*') {
      if (length && term.length) return undefined;
      length ||= term.length;
      terms.push(term);
    } else {
      if (term.length) return undefined;
      // In `sizes` Chromium takes a division by zero for an error; CSS Values 4, section 10.9 makes it infinite.
      if (dialect === 'sizes' && evaluateNumber(term) === 0) return undefined;
      terms.push({ op: 'invert', of: term, length: false });
    }
  }
  return terms.length === 1 ? first : { op: 'product', terms, length };
}

function parseValue(reader: TokenReader, dialect: MathDialect, depth: number): MathNode | undefined {
  reader.skipSpace();
  const token = reader.peek();
  if (!token || depth > deepest) return undefined;
  if (token.type === T.Function) return parseMath(reader, dialect, depth + 1);
  reader.next();
  if (token.type === T.LeftParenthesis) {
    const inner = parseSum(reader, dialect, depth + 1);
    reader.skipSpace();
    return inner && closeParenthesis(reader) ? inner : undefined;
  }
  if (token.type === T.Number) {
    return { op: 'value', value: numberOf(token).value, unit: '', length: false };
  }
  if (token.type === T.Dimension) {
    const { value, unit } = numberOf(token);
    return isLengthUnit(unit) ? { op: 'value', value, unit, length: true } : undefined;
  }
  return undefined;
}

/** Value of a plain number, which depends on no environment. */
function evaluateNumber(node: MathNode): number {
  return evaluateMath(node, {
    width: 0,
    height: 0,
    density: 1,
    touch: false,
    fontSize: 0,
    colorScheme: 'light',
  });
}

/** Value of a calculation: CSS px for lengths. Division by zero gives infinities, as CSS Values 4, 10.9 says. */
export function evaluateMath(node: MathNode, environment: Environment): number {
  switch (node.op) {
    case 'value':
      return node.length ? (lengthInPx(node.value, node.unit, environment) ?? Number.NaN) : node.value;
    case 'sum':
      return node.terms.reduce((sum, term) => sum + evaluateMath(term, environment), 0);
    case 'product':
      return node.terms.reduce((product, term) => product * evaluateMath(term, environment), 1);
    case 'negate':
      return -evaluateMath(node.of, environment);
    case 'invert':
      return 1 / evaluateMath(node.of, environment);
    default: {
      const values = node.terms.map((term) => evaluateMath(term, environment));
      if (node.op === 'min') return Math.min(...values);
      if (node.op === 'max') return Math.max(...values);
      const [low = Number.NaN, value = Number.NaN, high = Number.NaN] = values;
      return Math.max(low, Math.min(value, high));
    }
  }
}
