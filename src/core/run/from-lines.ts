import { RunFormatError } from './errors.js';
import { setOwn } from './json-pointers.js';

/** A line with the name of a field, and what of its value stands there. */
const field = /^("(?:[^"\\]|\\.)*"): (.*)$/s;

/**
 * Reads a saved run line by line, as it is written: each field on a line, and of a list each element. So a run that is longer than a string may
 * be can be read.
 * @returns what was saved, still to be held against the schema
 * @throws {RunFormatError} where the lines are others than those that are written
 */
export async function runFromLines(lines: AsyncIterable<string> | Iterable<string>): Promise<unknown> {
  const run: Record<string, unknown> = {};
  let list: unknown[] | undefined;
  let number = 0;
  for await (const line of lines) {
    number++;
    try {
      const text = line.replace(/,$/, '');
      if (list && text === ']') list = undefined;
      else if (list) list.push(JSON.parse(text));
      else if (text !== '{' && text !== '}' && text !== '') {
        const [, name = '', value = ''] = field.exec(text) ?? [];
        if (value === '[') list = [];
        setOwn(run, JSON.parse(name) as string, list ?? (JSON.parse(value) as unknown));
      }
    } catch (cause) {
      throw new RunFormatError(new Error(`line ${number} is not as it is written`, { cause }));
    }
  }
  return run;
}
