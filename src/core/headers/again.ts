import { weightsOn } from '../bytes/visit-weights.js';
import type { ReachCurve } from '../layout/reach.js';
import { reachOfDownload } from '../plan/taken.js';
import type { AgainTotals, ImageAnswer } from '../run/answer-types.js';
import type { PageRecord, Screen } from '../run/types.js';
import { cacheLife } from './cache-life.js';

/** A returning visit comes so much later: a day. Seconds. */
export const returnsAfter = 86_400;

/** Share of visits that come back, where the user tells nothing. */
export const usualReturning = 0.3;

export interface Seen {
  pages: readonly PageRecord[];
  screens: readonly Screen[];
  answers: ReadonlyMap<string, ImageAnswer>;
  reach: ReachCurve;
}

/**
 * What visits that come back pay once more for images that their browser has seen: of what may not be used again the whole body, of what
 * can be asked after only a question.
 * @param returning share of visits that come back, 0 to 1
 */
export function againTotals({ pages, screens, answers, reach }: Seen, returning: number): AgainTotals {
  let bytes = 0;
  let questions = 0;
  for (const screen of screens) {
    const weights = weightsOn(pages, screen.name);
    for (const { path, visits } of pages)
      for (const visit of visits.filter(({ screen: name }) => name === screen.name))
        for (const download of visit.downloads) {
          const answer = answers.get(download.url);
          if (!answer) continue;
          const life = cacheLife(answer);
          if (life.seconds >= returnsAfter) continue;
          const share =
            (weights.get(path) ?? 0) * screen.share * returning * reachOfDownload(download, screen, reach);
          if (life.asks) questions += share;
          else bytes += share * download.bytes;
        }
  }
  return {
    returning,
    after: returnsAfter,
    bytes: Math.round(bytes),
    questions: Math.round(questions * 100) / 100,
  };
}
