import { groupBy } from '../grouping.js';
import type { Fix, PageRecord, Placement, Run } from '../run/types.js';

/** What a report says of one page. */
export interface PageSummary {
  page: PageRecord;
  /** Expected bytes of its images by screen: as they are, and with every fix made. */
  screens: { screen: string; expected: number; expectedAfter: number }[];
  /** Fixes that touch it, with their places in the ranking, counted from 1. */
  fixes: { fix: Fix; rank: number }[];
  /** Images of which no check says anything. */
  sound: Placement[];
  /** Images with a finding. */
  found: number;
}

/** Every page of a run, in its order. */
export function summarisePages(run: Readonly<Run>): PageSummary[] {
  const withFinding = new Set(run.findings.map(({ placement }) => placement));
  const byPage = groupBy(run.placements, ({ page }) => page);
  const ledger = groupBy(run.ledger, ({ page, screen }) => JSON.stringify([page, screen]));
  const fixes = new Map<string, { fix: Fix; rank: number }[]>();
  run.fixes.forEach((fix, index) => {
    for (const path of fix.pages) {
      const own = fixes.get(path) ?? [];
      own.push({ fix, rank: index + 1 });
      fixes.set(path, own);
    }
  });
  return run.pages.map((page) => {
    const placements = byPage.get(page.path) ?? [];
    return {
      page,
      screens: page.visits.map(({ screen }) => {
        const own = ledger.get(JSON.stringify([page.path, screen])) ?? [];
        return {
          screen,
          expected: sum(own.map(({ expected }) => expected)),
          expectedAfter: sum(own.map(({ expectedRemains }) => expectedRemains)),
        };
      }),
      fixes: fixes.get(page.path) ?? [],
      sound: placements.filter(({ id }) => !withFinding.has(id)),
      found: placements.filter(({ id }) => withFinding.has(id)).length,
    };
  });
}

const sum = (values: readonly number[]) => values.reduce((total, value) => total + value, 0);
