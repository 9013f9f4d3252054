import { readReferences } from '../markup/quoted-value.js';
import type { SourcePosition } from '../run/types.js';

/** A stretch of a text that is replaced. */
export interface Splice {
  from: number;
  to: number;
  text: string;
}

/**
 * The offset of a place; below 0 where there are fewer lines. Lines end at "\n" only: that is how places are counted.
 */
export function offsetOf(content: string, { line, column }: Pick<SourcePosition, 'line' | 'column'>): number {
  let at = 0;
  for (let count = 1; count < line; count++) {
    const end = content.indexOf('\n', at);
    if (end < 0) return -1;
    at = end + 1;
  }
  return at + column - 1;
}

/** A style attribute stands behind its name. */
const mostBehind = 10;

type Range = Omit<Splice, 'text'>;

/**
 * Where a text stands in a file: of equal ones that in which the place lies, or that which begins right behind it.
 * @returns undefined where the file does not hold it there
 */
export function findText(
  content: string,
  text: string,
  place: Omit<SourcePosition, 'file'>,
): Range | undefined {
  const at = offsetOf(content, place);
  if (at < 0 || text === '') return undefined;
  if (place.quote === undefined) return findAt(content, text, at);
  const { text: meant, offsets } = readReferences(content);
  const found = findAt(meant, text, offsets.indexOf(at));
  const [from, to] = found ? [offsets[found.from], offsets[found.to]] : [];
  return from === undefined || to === undefined ? undefined : { from, to };
}

function findAt(content: string, text: string, at: number): Range | undefined {
  if (at < 0) return undefined;
  const first = Math.max(0, at - text.length + 1);
  for (
    let from = content.indexOf(text, first);
    from >= 0 && from <= at;
    from = content.indexOf(text, from + 1)
  )
    if (at < from + text.length) return { from, to: from + text.length };
  const from = content.indexOf(text, at);
  return from >= 0 && from - at < mostBehind ? { from, to: from + text.length } : undefined;
}

/**
 * The text with its splices made; every other character stays as it is.
 * @throws {RangeError} when two of them overlap
 */
export function splice(content: string, splices: readonly Splice[]): string {
  let text = '';
  let at = 0;
  for (const { from, to, text: own } of [...splices].sort((a, b) => a.from - b.from)) {
    if (from < at) throw new RangeError(`Two edits overlap at offset ${from}.`);
    text += content.slice(at, from) + own;
    at = to;
  }
  return text + content.slice(at);
}
