import { tokenize, tokenTypes } from 'css-tree';

/** A CSS token. CSS Syntax Module Level 3, section 4. Its text is cut out only when somebody asks for it. */
export class CssToken {
  constructor(
    readonly type: number,
    readonly source: string,
    readonly start: number,
    readonly end: number,
  ) {}

  get text(): string {
    return this.source.slice(this.start, this.end);
  }
}

export const T = tokenTypes;

/** Tokens of a text without comments. Linear in its length. */
export function cssTokens(text: string): CssToken[] {
  const tokens: CssToken[] = [];
  tokenize(text, (type, start, end) => {
    if (type !== T.Comment) tokens.push(new CssToken(type, text, start, end));
  });
  return tokens;
}

export const isOpening = (token: CssToken) =>
  token.type === T.Function ||
  token.type === T.LeftParenthesis ||
  token.type === T.LeftSquareBracket ||
  token.type === T.LeftCurlyBracket;

/** By the type of an opening token, the type of the one that closes it. */
const closers: (number | undefined)[] = [];
closers[T.Function] = T.RightParenthesis;
closers[T.LeftParenthesis] = T.RightParenthesis;
closers[T.LeftSquareBracket] = T.RightSquareBracket;
closers[T.LeftCurlyBracket] = T.RightCurlyBracket;

/**
 * For each opening token the index just past its closing one (or the end of the list), by one pass.
 * Entries of other tokens are the next index. CSS Syntax 3, 5.4.8 "Consume a simple block".
 */
export function componentEnds(tokens: readonly CssToken[]): Int32Array {
  const ends = new Int32Array(tokens.length);
  const open: number[] = [];
  const wanted: number[] = [];
  for (let index = 0; index < tokens.length; index++) {
    const type = tokens[index]?.type ?? 0;
    ends[index] = index + 1;
    const closer = closers[type];
    if (closer !== undefined) {
      open.push(index);
      wanted.push(closer);
    } else if (open.length > 0 && wanted[wanted.length - 1] === type) {
      ends[open.pop() ?? index] = index + 1;
      wanted.pop();
    }
  }
  for (const index of open) ends[index] = tokens.length;
  return ends;
}

/** Cursor over a stretch of tokens. */
export class TokenReader {
  constructor(
    readonly tokens: readonly CssToken[],
    public at = 0,
    readonly end = tokens.length,
  ) {}

  get done(): boolean {
    return this.at >= this.end;
  }

  peek(): CssToken | undefined {
    return this.at < this.end ? this.tokens[this.at] : undefined;
  }

  next(): CssToken | undefined {
    return this.at < this.end ? this.tokens[this.at++] : undefined;
  }

  /** Skips white space and says whether there was any. */
  skipSpace(): boolean {
    const start = this.at;
    while (this.at < this.end && this.tokens[this.at]?.type === T.WhiteSpace) this.at++;
    return this.at > start;
  }

  isIdent(word: string): boolean {
    const token = this.peek();
    return token?.type === T.Ident && token.text.toLowerCase() === word;
  }
}

const numeric = /^([+-]?(?:\d*\.)?\d+(?:e[+-]?\d+)?)(.*)$/is;

/** Value and unit (lower case) of a number, percentage or dimension token. */
export function numberOf(token: CssToken): { value: number; unit: string } {
  const match = numeric.exec(token.text);
  return { value: Number(match?.[1]), unit: unescapeIdent(match?.[2] ?? '').toLowerCase() };
}

function unescapeIdent(text: string): string {
  return text.includes('\\')
    ? text.replace(
        /\\(?:([0-9a-f]{1,6})\s?|(.))/gis,
        (_, hex: string | undefined, plain: string | undefined) =>
          hex ? String.fromCodePoint(Math.min(0x10ffff, Number.parseInt(hex, 16))) : (plain ?? ''),
      )
    : text;
}

/** Tokens without the space at their ends. */
export function withoutOuterSpace(tokens: readonly CssToken[]): readonly CssToken[] {
  let from = 0;
  let to = tokens.length;
  while (from < to && tokens[from]?.type === T.WhiteSpace) from++;
  while (to > from && tokens[to - 1]?.type === T.WhiteSpace) to--;
  return from === 0 && to === tokens.length ? tokens : tokens.slice(from, to);
}
