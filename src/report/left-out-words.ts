import type { LeftOut } from '../core/run/index.js';
import { plainText } from './plain-text.js';

/** Each choice by which findings were left out, once, with how many there were: `older-format until 2030-12-31 (their files) 3×`. */
export function leftOutInWords(all: readonly LeftOut[]): string[] {
  const often = new Map<string, number>();
  for (const { check, reason, until } of all) {
    const day = until === null ? '' : ` until ${until}`;
    const why = reason === '' ? '' : ` (${plainText(reason)})`;
    const words = `${check}${day}${why}`;
    often.set(words, (often.get(words) ?? 0) + 1);
  }
  return [...often].map(([words, times]) => (times > 1 ? `${words} ${times}×` : words));
}
