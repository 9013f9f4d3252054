import { durationInWords } from '../core/headers/cache-life.js';
import { bytesInWords, count, percent } from '../core/wording/words.js';
import type { Run } from '../core/run/index.js';

/** Hosts that seem to resize by address, and what to try. */
export const guessesInWords = ({ hostGuesses = [] }: Pick<Run, 'hostGuesses'>): string[] =>
  hostGuesses.map(
    ({ template, pictures }) =>
      `${count(pictures, 'picture')} ${pictures === 1 ? 'comes' : 'come'} in several widths by one number in the address, as from a host that resizes: try --image-host '${template}'.`,
  );

/** What visits that come back pay once more; undefined where that is not known. */
export function againInWords({ again }: Pick<Run, 'again'>): string | undefined {
  if (!again || again.returning === 0) return undefined;
  const { returning, after, bytes, questions } = again;
  const asks =
    questions > 0
      ? `, and asks ${questions} ${questions === 1 ? 'time' : 'times'} whether an image has changed`
      : '';
  return `Visits that come back (${percent(returning)} of all, ${durationInWords(after)} later): an average visit fetches ${bytesInWords(bytes)} again${asks}.`;
}
