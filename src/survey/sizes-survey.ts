import { Faults } from '../core/judging/faults.js';
import { Browser, sweep, type BrowserOptions } from '../browser/index.js';
import { claimAt, type ClaimStretch, claimStretches } from '../core/judging/sizes-stretches.js';
import type { Placement, Screen, SlotSweep } from '../core/run/index.js';
import { findSourceElements, readText, type Site } from '../site/index.js';
import { buildPlacements } from './placements.js';
import type { Progress } from './context.js';
import { SiteUrls } from './site-urls.js';
import { toSlotSweep } from './sweeps.js';
import { nothingSeen, observedIn } from './visit-summary.js';

/** What a template's images are given, claim and should say, over the width of the viewport. */
export interface SizesGroup {
  template: string;
  /** The first placement stands for the others, whose slots and attribute are the same. */
  placement: Placement;
  places: Placement[];
  sweep: SlotSweep;
  /** The present claim at a viewport width, CSS px; undefined without width descriptors. */
  claimAt(viewport: number): number | undefined;
  off: ClaimStretch[];
}

export interface SizesSurvey {
  groups: SizesGroup[];
  problems: { page: string; why: string }[];
}

export interface SizesOptions {
  browser?: BrowserOptions;
  match?: string;
  pageLimitMs: number;
}

const screen: Screen = { name: 'sweep', width: 1280, height: 900, density: 1, touch: false, share: 1 };

/** Sweeps pages and groups their images by template, slot and present attribute. */
export async function surveySizes(
  site: Site,
  options: SizesOptions,
  progress: Progress,
): Promise<SizesSurvey> {
  const urls = new SiteUrls(site.origin);
  const reach = { allows: (url: string) => urls.staysHere(url) };
  const browser = await Browser.open(options.browser, reach);
  const survey: SizesSurvey = { groups: [], problems: [] };
  const groups = new Map<string, SizesGroup>();
  progress.begin('sweeps', site.pages.length);
  try {
    for (const page of site.pages) {
      const record = await sweep(browser, {
        url: site.origin + page.path,
        limitMs: options.pageLimitMs,
        allows: reach.allows,
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
      const elements = findSourceElements(readText(await site.read(page.file)));
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
        if (swept) addTo(groups, placement, swept);
      }
    }
  } finally {
    await browser.close();
  }
  survey.groups = [...groups.values()];
  return survey;
}

function addTo(groups: Map<string, SizesGroup>, placement: Placement, swept: SlotSweep): void {
  const claims = swept.pieces.map(({ from }) => claimAt(placement, from));
  const key = JSON.stringify([placement.template, swept.pieces, swept.reason, claims]);
  const group = groups.get(key);
  if (group) {
    group.places.push(placement);
    return;
  }
  groups.set(key, {
    template: placement.template,
    placement,
    places: [placement],
    sweep: swept,
    claimAt: (viewport) => claimAt(placement, viewport),
    off: claimStretches(placement, swept),
  });
}
