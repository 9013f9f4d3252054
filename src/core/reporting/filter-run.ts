import type { Run } from '../run/types.js';

/** What a reader wants to see of a run. */
export interface RunFilter {
  /** Whether a page is wanted, by its path; all if left out. */
  wantsPage?: ((path: string) => boolean) | undefined;
  /** Ids of checks; all if left out. */
  checks?: readonly string[] | undefined;
}

/**
 * A run with only those fixes that touch the wanted pages and checks, and their places there. What the numbers are of stays: an average
 * visit to the whole site.
 */
export function filterRun(run: Readonly<Run>, { wantsPage, checks }: RunFilter): Run {
  if (!wantsPage && !checks) return run as Run;
  const fixes = run.fixes
    .filter(
      (fix) =>
        (!checks || fix.checks.some((check) => checks.includes(check))) &&
        (!wantsPage || fix.pages.some(wantsPage)),
    )
    .map((fix) =>
      wantsPage
        ? {
            ...fix,
            pages: fix.pages.filter(wantsPage),
            places: fix.places.filter(({ page }) => wantsPage(page)),
          }
        : fix,
    );
  return { ...run, fixes };
}
