import pLimit from 'p-limit';
import {
  Browser,
  layoutsAt,
  type BrowserOptions,
  type LayoutRecord,
  type Preparation,
} from '../browser/index.js';
import { boxChanges, type ComparedLayouts } from '../core/mending/box-changes.js';
import type { Site } from '../site/index.js';
import type { Progress } from './context.js';
import { accessTo, reachTo } from './access.js';

/** Small and large phones, tablets both ways, laptops and a large window, CSS px. */
export const layoutWidths = [320, 375, 430, 600, 768, 1024, 1366, 1920] as const;

export interface LayoutOptions {
  browser?: BrowserOptions;
  pageLimitMs: number;
  atOnce: number;
  allowOtherHosts: boolean;
  prepare?: Preparation;
  interrupted?: AbortSignal;
}

/**
 * Compares every element's box on pages of two copies of a site, at eight widths of the viewport.
 * @param pages paths, each with whether the box of an image on it was the fault
 */
export async function compareLayouts(
  [before, after]: readonly [Site, Site],
  pages: ReadonlyMap<string, boolean>,
  options: LayoutOptions,
  progress: Progress,
): Promise<ComparedLayouts> {
  const survey: ComparedLayouts = { changes: [], pages: 0, widths: layoutWidths.length, problems: [] };
  const browser = await Browser.open(options.browser, reachTo([before, after], options));
  const inBrowser = pLimit(options.atOnce);
  const layouts = (site: Site, path: string): Promise<LayoutRecord> => {
    const access = accessTo(site, options);
    return inBrowser(async () =>
      options.interrupted?.aborted
        ? { boxes: new Map(), problem: 'interrupted' }
        : layoutsAt(browser, {
            url: site.origin + path,
            // Scrolled through eight times, not once.
            limitMs: options.pageLimitMs * 2,
            widths: layoutWidths,
            ...access,
          }),
    );
  };
  progress.begin('layouts', pages.size);
  try {
    const compared = await Promise.all(
      [...pages].map(async ([path, boxWasTheFault]) => {
        const [was, now] = await Promise.all([layouts(before, path), layouts(after, path)]);
        const problem = was.problem ?? now.problem;
        const compare = (again?: LayoutRecord) =>
          boxChanges({ before: was.boxes, after: now.boxes, again: again?.boxes, boxWasTheFault });
        const differs = problem === undefined && compare().length > 0;
        const changes = differs ? compare(await layouts(before, path)) : [];
        progress.step();
        return { path, problem, changes };
      }),
    );
    for (const { path, problem, changes } of compared) {
      if (problem === undefined) survey.pages++;
      else survey.problems.push({ page: path, why: problem });
      survey.changes.push(...changes.map((change) => ({ page: path, ...change })));
    }
  } finally {
    await browser.close();
  }
  return survey;
}
