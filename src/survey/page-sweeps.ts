import { BrowserError, type SweepRecord } from '../browser/index.js';
import type { Incomplete, Placement, SlotSweep } from '../core/run/index.js';
import type { AuditContext } from './context.js';
import { identify } from './identity.js';
import type { KnownElements, SurveyedPage } from './page-visits.js';
import { observedIn } from './visit-summary.js';
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
  surveyed: readonly SurveyedPage[],
): Promise<SweptPages> {
  const { images, progress, options } = context;
  const pages = surveyed.filter(({ placements }) =>
    placements.some((placement) => wantsSizes(placement, images.files, options.wishes.trifles)),
  );
  progress.begin('sweeps', pages.length);
  const swept = await Promise.all(
    pages.map((page) =>
      context.inBrowser(() => sweepPage(context, page).finally(() => progress.step(page.record.path))),
    ),
  );
  return {
    sweeps: swept.flatMap(({ sweeps }) => sweeps),
    incomplete: swept.flatMap(({ incomplete }) => incomplete),
  };
}

async function sweepPage(
  context: AuditContext,
  { record: { path }, known }: SurveyedPage,
): Promise<SweptPages> {
  const { site, browser, options, allows, images } = context;
  const failed = (why: string): SweptPages => ({
    sweeps: [],
    incomplete: [{ page: path, screen: null, why: `not swept: ${why}` }],
  });
  if (context.interrupted) return failed('the audit was interrupted');
  const sweepOnce = async (): Promise<SweptPages> => {
    const record = await context.memory.remember(
      { what: 'sweep', page: path, conditions: { otherHosts: options.allowOtherHosts } },
      (watch) =>
        context.stages.sweep(browser, {
          url: site.origin + path,
          limitMs: options.pageLimitMs * patience,
          allows,
          watch,
        }),
      ({ problem }) => problem === undefined,
    );
    if (record.problem !== undefined) return failed(record.problem);
    return {
      sweeps: placementsIn(record, known).flatMap(({ placement, node }) =>
        wantsSizes(placement, images.files, options.wishes.trifles)
          ? (context.faults.attempt('fitting sizes', placement, () => toSlotSweep(placement, node, record)) ??
            [])
          : [],
      ),
      incomplete: [],
    };
  };
  try {
    return await context.twice(sweepOnce, failed);
  } catch (cause) {
    if (cause instanceof BrowserError) throw cause;
    context.faults.note('the sweep', { page: path }, cause);
    return { sweeps: [], incomplete: [] };
  }
}

/** The page's placements as the nodes that they were in the load that was swept. */
function placementsIn(
  { page }: SweepRecord,
  { byKey, documentOf }: KnownElements,
): { placement: Placement; node: string }[] {
  if (!page) return [];
  return identify(observedIn(page), documentOf).flatMap(({ element: { node }, key }) => {
    const placement = byKey.get(key);
    // Frames are not swept: their width is their own.
    return placement && !placement.frames ? [{ placement, node }] : [];
  });
}
