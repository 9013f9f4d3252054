import { sweep } from '../browser/index.js';
import type { Incomplete, Placement, SlotSweep } from '../core/run/index.js';
import type { Page } from '../site/index.js';
import type { AuditContext } from './context.js';
import { wantsSizes } from './wants-sizes.js';
import { toSlotSweep } from './sweeps.js';

/** A sweep looks at a hundred widths and more: it may take so many times as long as one visit. */
const patience = 4;

export interface SweptPages {
  sweeps: SlotSweep[];
  incomplete: Incomplete[];
}

/** Sweeps the pages on which a source-size list is, or should be, written. */
export async function sweepPages(
  context: AuditContext,
  placements: readonly Placement[],
): Promise<SweptPages> {
  const { site, images, progress } = context;
  const wanting = placements.filter((placement) =>
    wantsSizes(placement, images.files, context.options.wishes.trifles),
  );
  const pages = site.pages.filter(({ path }) => wanting.some(({ page }) => page === path));
  progress.begin('sweeps', pages.length);
  const swept = await Promise.all(
    pages.map((page) =>
      context.inBrowser(() => {
        const here = wanting.filter((placement) => placement.page === page.path);
        return sweepPage(context, page, here).finally(() => progress.step());
      }),
    ),
  );
  return {
    sweeps: swept.flatMap(({ sweeps }) => sweeps),
    incomplete: swept.flatMap(({ incomplete }) => incomplete),
  };
}

async function sweepPage(
  context: AuditContext,
  page: Page,
  placements: readonly Placement[],
): Promise<SweptPages> {
  const { site, browser, options, allows } = context;
  const failed = (why: string): SweptPages => ({
    sweeps: [],
    incomplete: [{ page: page.path, screen: null, why: `not swept: ${why}` }],
  });
  return context.twice(async () => {
    const record = await sweep(browser, {
      url: site.origin + page.path,
      limitMs: options.pageLimitMs * patience,
      allows,
    });
    if (record.problem !== undefined) return failed(record.problem);
    return {
      sweeps: placements.flatMap((placement) => toSlotSweep(placement, record) ?? []),
      incomplete: [],
    };
  }, failed);
}
