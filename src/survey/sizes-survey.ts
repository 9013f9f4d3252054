import { Faults } from '../core/judging/faults.js';
import { Browser, sweep, type BrowserOptions, type Preparation } from '../browser/index.js';
import { groupSizes, type SizesGroup } from '../core/judging/sizes-groups.js';
import type { Placement, Screen, SlotSweep } from '../core/run/index.js';
import { findSourceElements, parsePage, readText, type Site } from '../site/index.js';
import { buildPlacements } from './placements.js';
import type { Progress } from './context.js';
import { accessTo, reachTo } from './access.js';
import { SiteUrls } from './site-urls.js';
import { toSlotSweep } from './sweeps.js';
import { nothingSeen } from './visit-summary.js';
import { observedIn } from './observed-elements.js';

export interface SizesSurvey {
  groups: SizesGroup[];
  problems: { page: string; why: string }[];
}

export interface SizesOptions {
  browser?: BrowserOptions;
  match?: string;
  pageLimitMs: number;
  prepare?: Preparation;
}

const screen: Screen = { name: 'sweep', width: 1280, height: 900, density: 1, touch: false, share: 1 };

/** Sweeps pages and groups their images by template, slot and present attribute. */
export async function surveySizes(
  site: Site,
  options: SizesOptions,
  progress: Progress,
): Promise<SizesSurvey> {
  const urls = new SiteUrls(site.origin);
  const allowOtherHosts = false;
  const browser = await Browser.open(options.browser, reachTo([site], { allowOtherHosts }));
  const survey: SizesSurvey = { groups: [], problems: [] };
  const all: [Placement, SlotSweep][] = [];
  progress.begin('sweeps', site.pages.length);
  try {
    for (const page of site.pages) {
      const record = await sweep(browser, {
        url: site.origin + page.path,
        limitMs: options.pageLimitMs,
        ...accessTo(site, { ...options, allowOtherHosts }),
        ...(options.match === undefined ? {} : { match: options.match }),
      });
      progress.step();
      if (record.problem || !record.page) {
        survey.problems.push({ page: page.path, why: record.problem ?? 'nothing was seen of it' });
        continue;
      }
      const faults = new Faults();
      const summary = {
        ...nothingSeen(screen.name, 'unseen'),
        baseUrl: record.page.baseUrl,
        observed: observedIn(record.page),
      };
      const elements = findSourceElements(parsePage(readText(await site.read(page.file))));
      const documentOf = (frame: string | undefined) =>
        frame === undefined ? { file: page.file, elements } : undefined;
      const built = buildPlacements(
        page,
        [{ screen, summary }],
        { documentOf },
        {
          urls,
          fileOf: () => undefined,
          faults,
        },
      );
      for (const { why } of faults.list) survey.problems.push({ page: page.path, why });
      for (const [node, placement] of built.byNode.get(screen.name) ?? []) {
        if (placement.kind !== 'img' && placement.kind !== 'picture') continue;
        if (placement.frames || (record.matched && !record.matched.has(node))) continue;
        const swept = toSlotSweep(placement, node, record);
        if (swept) all.push([placement, swept]);
      }
    }
  } finally {
    await browser.close();
  }
  survey.groups = groupSizes(all);
  return survey;
}
