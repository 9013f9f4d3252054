import type { Run } from '../../src/core/run/index.js';

/** The checks that found something on a page, by name. */
export const checksOn = (run: Run, path: string): string[] =>
  [
    ...new Set(
      run.findings.filter(({ placement }) => placement.startsWith(`${path}#`)).map(({ check }) => check),
    ),
  ].sort();

/** What a screen fetched of a page. */
export const visitOf = (run: Run, path: string, screen = 'desk') =>
  run.pages.find((each) => each.path === path)?.visits.find((visit) => visit.screen === screen);
