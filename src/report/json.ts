import { shorten, type Run } from '../core/run/index.js';
import { asJsonLine } from './as-json.js';

/**
 * The run as JSON text, piece by piece: a run of thousands of pages is longer than a string may be. Each element of a list stands on a line of
 * its own, so that `runFromLines` can read it the same way; in long lists those that are like another one stand there as what is different.
 * The same run gives the same bytes. Control characters are escaped by JSON itself.
 */
export function* runInPieces(run: Readonly<Run>): Generator<string> {
  yield '{\n';
  const fields = Object.entries(run).filter(([, value]) => value !== undefined);
  for (const [index, [name, value]] of fields.entries()) {
    const end = index < fields.length - 1 ? ',\n' : '\n';
    if (!Array.isArray(value) || value.length === 0) {
      yield `${JSON.stringify(name)}: ${asJsonLine(value)}${end}`;
      continue;
    }
    yield `${JSON.stringify(name)}: [\n`;
    let left = value.length;
    for (const element of shorten(name, value)) yield `${asJsonLine(element)}${--left > 0 ? ',' : ''}\n`;
    yield `]${end}`;
  }
  yield '}\n';
}

/** The same as one text. */
export const runAsJson = (run: Readonly<Run>): string => [...runInPieces(run)].join('');
