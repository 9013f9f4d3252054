import { durationInWords } from '../core/headers/cache-life.js';
import { bytesInWords, percent } from '../core/wording/words.js';
import type { Run } from '../core/run/index.js';

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
