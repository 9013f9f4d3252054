import { fork, tokenTypes, type CssNode, type ParseOptions, type Syntax } from 'css-tree';

/** What css-tree gives the functions of its grammar, as far as a block needs it. */
interface Parser {
  readonly source: string;
  readonly eof: boolean;
  readonly tokenType: number;
  readonly tokenStart: number;
  next(): void;
  eat(type: number): void;
  createList(): { push(node: unknown): void };
  getLocation(start: number, end: number): unknown;
  lookupType(ahead: number): number;
  parseWithFallback(parse: () => unknown, otherwise: () => unknown): unknown;
  consumeUntilSemicolonIncluded: unknown;
  Raw(until: unknown, trimmed: boolean): unknown;
  Rule(): unknown;
  Declaration(): unknown;
  Atrule(isInRule: boolean): unknown;
}

const { AtKeyword, Comment, LeftCurlyBracket, RightCurlyBracket, Semicolon, WhiteSpace } = tokenTypes;

/**
 * What the rest of a block begins with: what comes to an opening brace before a semicolon is a rule, whatever its selector begins with. CSS
 * Syntax Level 3, section 5.5.4 "Consume a block's contents".
 */
function beginsRule(parser: Parser): boolean {
  // Custom properties may hold braces.
  if (parser.source.startsWith('--', parser.tokenStart)) return false;
  for (let ahead = 0; ; ahead++) {
    const type = parser.lookupType(ahead);
    if (type === LeftCurlyBracket) return true;
    if (type === Semicolon || type === RightCurlyBracket || type === tokenTypes.EOF) return false;
  }
}

function declarationIn(parser: Parser): unknown {
  const raw = () => parser.Raw(parser.consumeUntilSemicolonIncluded, true);
  if (parser.tokenType === Semicolon) return raw();
  const node = parser.parseWithFallback(() => parser.Declaration(), raw);
  if (parser.tokenType === Semicolon) parser.next();
  return node;
}

function parseBlock(this: Parser, isInRule = false): unknown {
  const start = this.tokenStart;
  const children = this.createList();
  const raw = () => this.Raw(null, true);
  this.eat(LeftCurlyBracket);
  while (!this.eof && this.tokenType !== RightCurlyBracket) {
    if (this.tokenType === WhiteSpace || this.tokenType === Comment) this.next();
    else if (this.tokenType === AtKeyword)
      children.push(this.parseWithFallback(() => this.Atrule(isInRule), raw));
    else if (isInRule && !beginsRule(this)) children.push(declarationIn(this));
    else children.push(this.parseWithFallback(() => this.Rule(), raw));
  }
  if (!this.eof) this.eat(RightCurlyBracket);
  return { type: 'Block', loc: this.getLocation(start, this.tokenStart), children };
}

let syntax: Syntax | undefined;

/**
 * Parses a style sheet with rules inside rules (CSS Nesting Module Level 1); css-tree's own grammar knows only those that begin with `&`.
 * What does not parse is passed over, as browsers do.
 */
export function parseStyles(css: string, options: ParseOptions = {}): CssNode {
  syntax ??= fork({ node: { Block: { parse: parseBlock } } });
  return syntax.parse(css, { parseCustomProperty: true, onParseError: () => undefined, ...options });
}
