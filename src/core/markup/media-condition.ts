import { T, TokenReader, componentEnds, withoutOuterSpace, type CssToken } from './css-tokens.js';
import type { Environment } from './environment.js';
import {
  discreteHolds,
  holdsAlone,
  isRangeFeature,
  rangeHolds,
  readFeatureValue,
  type Comparison,
  type FeatureValue,
} from './media-feature.js';

/** A parsed media condition. Media Queries Level 4, section 3; `unknown` is `<general-enclosed>`. */
export type MediaCondition =
  | { op: 'and' | 'or'; terms: MediaCondition[] }
  | { op: 'not'; of: MediaCondition }
  | { op: 'alone'; name: string }
  | { op: 'plain'; name: string; value: FeatureValue }
  | { op: 'range'; name: string; tests: { sign: Comparison; value: FeatureValue }[] }
  | { op: 'unknown' };

const deepest = 200;

/**
 * Parses tokens that must be one whole `<media-condition>`.
 * @returns undefined on a syntax error
 */
export function parseMediaCondition(tokens: readonly CssToken[], allowOr = true): MediaCondition | undefined {
  const reader = new TokenReader(tokens);
  const context = { ends: componentEnds(tokens) };
  const condition = readCondition(reader, context, allowOr, 0);
  reader.skipSpace();
  return condition && reader.done ? condition : undefined;
}

interface Context {
  ends: Int32Array;
}

function readCondition(
  reader: TokenReader,
  context: Context,
  allowOr: boolean,
  depth: number,
): MediaCondition | undefined {
  if (depth > deepest) return undefined;
  reader.skipSpace();
  if (reader.isIdent('not')) {
    reader.next();
    // Without white space "not(" is a function token, so there always is some here or an error follows.
    reader.skipSpace();
    const of = readInParens(reader, context, depth);
    return of && { op: 'not', of };
  }
  const first = readInParens(reader, context, depth);
  if (!first) return undefined;
  const terms = [first];
  let operator: 'and' | 'or' | undefined;
  for (;;) {
    const before = reader.at;
    reader.skipSpace();
    const word = reader.isIdent('and') ? 'and' : reader.isIdent('or') ? 'or' : undefined;
    if (!word || (operator && operator !== word) || (word === 'or' && !allowOr)) {
      reader.at = before;
      break;
    }
    operator = word;
    reader.next();
    reader.skipSpace();
    const term = readInParens(reader, context, depth);
    if (!term) return undefined;
    terms.push(term);
  }
  return operator ? { op: operator, terms } : first;
}

function readInParens(reader: TokenReader, context: Context, depth: number): MediaCondition | undefined {
  const token = reader.peek();
  if (!token) return undefined;
  const end = context.ends[reader.at] ?? reader.end;
  if (token.type === T.Function) {
    reader.at = end;
    return { op: 'unknown' };
  }
  if (token.type !== T.LeftParenthesis) return undefined;
  const closed = reader.tokens[end - 1]?.type === T.RightParenthesis && end - 1 > reader.at;
  const inner = new TokenReader(reader.tokens, reader.at + 1, closed ? end - 1 : end);
  reader.at = end;
  return readInside(inner, context, depth + 1);
}

function readInside(inner: TokenReader, context: Context, depth: number): MediaCondition | undefined {
  const start = inner.at;
  inner.skipSpace();
  // `()` encloses nothing at all, which `<general-enclosed>` allows.
  if (inner.done) return { op: 'unknown' };
  const nested =
    inner.isIdent('not') || inner.peek()?.type === T.LeftParenthesis || inner.peek()?.type === T.Function;
  if (nested) {
    const condition = readCondition(inner, context, true, depth);
    inner.skipSpace();
    if (condition && inner.done) return condition;
    inner.at = start;
  }
  return readFeature(inner.tokens.slice(start, inner.end)) ?? generalEnclosed(inner, start);
}

/** `( <any-value>? )`: anything balanced without bad tokens. */
function generalEnclosed(inner: TokenReader, start: number): MediaCondition | undefined {
  for (let at = start; at < inner.end; at++) {
    const type = inner.tokens[at]?.type;
    if (type === T.BadString || type === T.BadUrl) return undefined;
  }
  return { op: 'unknown' };
}

interface Sign {
  sign: Comparison;
  from: number;
  to: number;
}

function findSigns(tokens: readonly CssToken[]): Sign[] {
  const signs: Sign[] = [];
  for (let at = 0; at < tokens.length; at++) {
    const token = tokens[at];
    if (token?.type !== T.Delim || !'<>='.includes(token.text)) continue;
    const next = tokens[at + 1];
    const orEqual = token.text !== '=' && next?.type === T.Delim && next.text === '=';
    signs.push({
      sign: (orEqual ? `${token.text}=` : token.text) as Comparison,
      from: at,
      to: at + (orEqual ? 2 : 1),
    });
    if (orEqual) at++;
  }
  return signs;
}

const mirrored: Record<Comparison, Comparison> = { '<': '>', '<=': '>=', '>': '<', '>=': '<=', '=': '=' };

/** `<media-feature>` without its parentheses; undefined when it has another form. */
function readFeature(tokens: readonly CssToken[]): MediaCondition | undefined {
  const trimmed = withoutOuterSpace(tokens);
  const [first] = trimmed;
  if (first?.type === T.Ident && trimmed.length === 1) return { op: 'alone', name: first.text.toLowerCase() };
  const signs = findSigns(trimmed);
  if (signs.length > 0) return readRange(trimmed, signs);
  if (first?.type !== T.Ident) return undefined;
  const reader = new TokenReader(trimmed, 1);
  reader.skipSpace();
  if (reader.next()?.type !== T.Colon) return undefined;
  const value = readFeatureValue(trimmed.slice(reader.at));
  if (!value) return undefined;
  const name = first.text.toLowerCase();
  const bound = /^(-webkit-)?(min|max)-(.*)$/.exec(name);
  if (bound) {
    const [, prefix = '', side, rest] = bound;
    return { op: 'range', name: `${prefix}${rest}`, tests: [{ sign: side === 'min' ? '>=' : '<=', value }] };
  }
  return isRangeFeature(name)
    ? { op: 'range', name, tests: [{ sign: '=', value }] }
    : { op: 'plain', name, value };
}

function readRange(tokens: readonly CssToken[], signs: readonly Sign[]): MediaCondition | undefined {
  const [one, two, three] = signs;
  if (!one || three) return undefined;
  const name = (part: readonly CssToken[]) => {
    const [token, more] = withoutOuterSpace(part);
    return token?.type === T.Ident && !more ? token.text.toLowerCase() : undefined;
  };
  const left = tokens.slice(0, one.from);
  if (!two) {
    const right = tokens.slice(one.to);
    const leftName = name(left);
    if (leftName !== undefined && isRangeFeature(leftName)) {
      const value = readFeatureValue(right);
      return value && { op: 'range', name: leftName, tests: [{ sign: one.sign, value }] };
    }
    const rightName = name(right);
    const value = readFeatureValue(left);
    return rightName !== undefined && isRangeFeature(rightName) && value
      ? { op: 'range', name: rightName, tests: [{ sign: mirrored[one.sign], value }] }
      : undefined;
  }
  // <value> < name < <value>: both signs must point the same way, and "=" is not allowed.
  if (one.sign[0] !== two.sign[0] || one.sign === '=') return undefined;
  const middle = name(tokens.slice(one.to, two.from));
  const low = readFeatureValue(left);
  const high = readFeatureValue(tokens.slice(two.to));
  if (middle === undefined || !isRangeFeature(middle) || !low || !high) return undefined;
  return {
    op: 'range',
    name: middle,
    tests: [
      { sign: mirrored[one.sign], value: low },
      { sign: two.sign, value: high },
    ],
  };
}

/** Whether a condition holds: true, false or unknown, by the three-valued logic of Media Queries 4, 3.1. */
export function conditionHolds(condition: MediaCondition, environment: Environment): boolean | undefined {
  switch (condition.op) {
    case 'unknown':
      return undefined;
    case 'alone':
      return holdsAlone(condition.name, environment);
    case 'plain':
      return discreteHolds(condition.name, condition.value, environment);
    case 'range': {
      let all: boolean | undefined = true;
      for (const { sign, value } of condition.tests) {
        const holds = rangeHolds(condition.name, sign, value, environment);
        if (holds === undefined) return undefined;
        all = all && holds;
      }
      return all;
    }
    case 'not': {
      const holds = conditionHolds(condition.of, environment);
      return holds === undefined ? undefined : !holds;
    }
    default: {
      const decisive = condition.op === 'or';
      let unknown = false;
      for (const term of condition.terms) {
        const holds = conditionHolds(term, environment);
        if (holds === decisive) return decisive;
        unknown ||= holds === undefined;
      }
      return unknown ? undefined : !decisive;
    }
  }
}
