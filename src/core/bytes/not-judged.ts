import type { LedgerEntry, NotJudged, PageRecord, Screen } from '../run/types.js';
import { weightsOn } from './visit-weights.js';

/** The downloads that no element of a page shows, such as those of canvases and scripts: those with the most bytes first. */
export function notJudged(
  pages: readonly PageRecord[],
  screens: readonly Screen[],
  ledger: readonly LedgerEntry[],
): NotJudged[] {
  const weights = new Map(screens.map(({ name }) => [name, weightsOn(pages, name)]));
  const shares = new Map(screens.map(({ name, share }) => [name, share]));
  const found = new Map<string, { pages: Set<string>; expected: number }>();
  for (const { page, screen, url, placements, expected } of ledger) {
    if (placements.length > 0 || expected === 0) continue;
    const entry = found.get(url) ?? { pages: new Set(), expected: 0 };
    entry.pages.add(page);
    entry.expected += (weights.get(screen)?.get(page) ?? 0) * (shares.get(screen) ?? 0) * expected;
    found.set(url, entry);
  }
  return [...found]
    .map(([url, entry]) => ({ url, pages: [...entry.pages].sort(), expected: Math.round(entry.expected) }))
    .sort((a, b) => b.expected - a.expected || (a.url < b.url ? -1 : 1));
}
