import { Chalk, type ChalkInstance } from 'chalk';
import stringWidth from 'string-width';
import wrapAnsi from 'wrap-ansi';

/** How a terminal wants its text. */
export interface TerminalStyle {
  /** Columns, at least 40. */
  columns: number;
  /** 0 none, 1 sixteen, 2 256, 3 millions. */
  colours: 0 | 1 | 2 | 3;
}

/** Lines of text within the columns of a terminal. */
export class TextPage {
  readonly paint: ChalkInstance;
  readonly columns: number;
  readonly #lines: string[] = [];

  constructor({ columns, colours }: TerminalStyle) {
    this.paint = new Chalk({ level: colours });
    this.columns = Math.max(40, Math.min(columns, 140));
  }

  blank(): void {
    if (this.#lines.at(-1) !== '') this.#lines.push('');
  }

  /** Text wrapped to the columns; `label` stands before its first line. */
  text(text: string, indent = 0, label = ''): void {
    const margin = ' '.repeat(indent);
    const width = this.columns - indent;
    const lines = wrapAnsi(text, width, { hard: true, trim: true }).split('\n');
    lines.forEach((line, index) =>
      this.#lines.push(index === 0 && label ? pad(label, indent) + line : margin + line),
    );
  }

  /** A line with something at each end; the left part gives way. */
  ends(left: string, right: string): void {
    const room = this.columns - stringWidth(right) - 2;
    if (stringWidth(left) > room) {
      const [first = '', ...rest] = wrapAnsi(left, room, { trim: true }).split('\n');
      this.ends(first, right);
      for (const line of rest) this.#lines.push(`    ${line}`);
      return;
    }
    this.#lines.push(left + ' '.repeat(this.columns - stringWidth(left) - stringWidth(right)) + right);
  }

  /** Text that must stay as it is: not wrapped at words, but never wider than the terminal. */
  verbatim(text: string, indent: number): void {
    const margin = ' '.repeat(indent);
    for (const line of text.split('\n')) {
      const own = /^ */.exec(line)?.[0] ?? '';
      const pieces = wrapAnsi(line.slice(own.length), this.columns - indent - own.length - 2, {
        hard: true,
        trim: false,
        wordWrap: true,
      }).split('\n');
      pieces.forEach((piece, index) =>
        this.#lines.push(margin + own + (index > 0 ? '  ' : '') + piece.trimEnd()),
      );
    }
  }

  raw(lines: readonly string[]): void {
    this.#lines.push(...lines);
  }

  toString(): string {
    return `${this.#lines.map((line) => line.trimEnd()).join('\n')}\n`;
  }
}

export function pad(text: string, width: number): string {
  return text + ' '.repeat(Math.max(0, width - stringWidth(text)));
}

export function padStart(text: string, width: number): string {
  return ' '.repeat(Math.max(0, width - stringWidth(text))) + text;
}
