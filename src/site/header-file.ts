import { readFile, stat } from 'node:fs/promises';
import picomatch from 'picomatch';
import { causeInWords } from '../core/wording/words.js';
import { SiteError } from './errors.js';
import type { ServerAnswer } from './server-answer.js';

interface HeaderRule {
  matches(path: string): boolean;
  headers: (readonly [name: string, value: string])[];
}

/** What a static host is told to send with its files. */
export interface HeaderFile {
  /** What it sends with a file, besides what every host does. */
  answerWith(path: string, file: string, type: string): Promise<ServerAnswer>;
}

/**
 * Reads the headers that a host is told to send, in the plain form that several static hosts read: a line with a path, in which `*` stands for
 * anything and `:name` for a part of it, and below it, indented, a line for each header. Of rules for one path all hold; `! Name` takes one
 * away. What begins with `#` is a comment.
 * @throws {SiteError} when there is no such file, or a line is neither
 */
export async function readHeaderFile(name: string): Promise<HeaderFile> {
  const text = await readFile(name, 'utf8').catch((cause: unknown) => {
    throw new SiteError('WRONG_HEADER', `The headers "${name}" cannot be read: ${causeInWords(cause)}.`);
  });
  const rules = parseHeaderFile(text, name);
  return {
    async answerWith(path, file, type) {
      const { size, mtime } = await stat(file);
      const told = headersFor(rules, path);
      const has = new Set(told.map(([each]) => each));
      const usual = [
        ['content-type', type],
        ['last-modified', mtime.toUTCString()],
        ['date', new Date().toUTCString()],
      ] as const;
      const headers = [...told, ...usual.filter(([each]) => !has.has(each))];
      return { headers, wireBytes: size, size, coding: null, protocol: null, redirects: [] };
    },
  };
}

export function parseHeaderFile(text: string, name = ''): HeaderRule[] {
  const rules: HeaderRule[] = [];
  for (const [index, line] of text.split(/\r?\n/).entries()) {
    const plain = line.trim();
    if (plain === '' || plain.startsWith('#')) continue;
    if (!/^\s/.test(line)) {
      rules.push({ matches: matcherOf(plain), headers: [] });
      continue;
    }
    const [, key, value] = /^([^:\s]+)\s*:\s*(.*)$/.exec(plain) ?? /^(!\s*[^:\s]+)\s*()$/.exec(plain) ?? [];
    const rule = rules.at(-1);
    if (!rule || key === undefined || value === undefined)
      throw new SiteError(
        'WRONG_HEADER',
        `The headers "${name}": line ${index + 1} is neither a path nor, indented below one, "Name: value".`,
      );
    rule.headers.push([key.toLowerCase().replace(/^!\s*/, '!'), value]);
  }
  return rules;
}

/** A path may be written with its host in front. */
function matcherOf(pattern: string): HeaderRule['matches'] {
  const path = pattern.replace(/^https?:\/\/[^/]+/i, '');
  const glob = path
    .replace(/:[A-Za-z]\w*/g, '*')
    .replace(/\*+/g, '**')
    .replace(/[()[\]{}!?+@\\]/g, '\\$&');
  return picomatch(glob, { dot: true, bash: true });
}

/** Of several values for one header hosts send all, joined. */
function headersFor(rules: readonly HeaderRule[], path: string): (readonly [string, string])[] {
  const found = new Map<string, string>();
  for (const { matches, headers } of rules) {
    if (!matches(path)) continue;
    for (const [name, value] of headers) {
      if (name.startsWith('!')) found.delete(name.slice(1));
      else found.set(name, [found.get(name) ?? [], value].flat().join(', '));
    }
  }
  return [...found];
}
