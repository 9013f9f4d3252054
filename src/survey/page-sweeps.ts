import { BrowserError, type SweepRecord } from '../browser/index.js';
import type { Incomplete, PageRecord, Placement, SlotSweep } from '../core/run/index.js';
import { slotSigns } from '../core/templates/shared-sweeps.js';
import { parsePage, readText } from '../site/index.js';
import { accessTo } from './access.js';
import { allowedBy } from './page-looks.js';
import type { AuditContext } from './context.js';
import { identify } from './identity.js';
import type { KnownElements, SurveyedPage } from './page-visits.js';
import { observedIn } from './observed-elements.js';
import { wantsSizes } from './wants-sizes.js';
import { skeletonHash } from './skeleton-hash.js';
import { sweepTemplates, type PageToSweep, type SweptOnce } from './swept-templates.js';
import { toSlotSweep } from './sweeps.js';

/** A sweep looks at a hundred widths and more: it may take so many times as long as one visit. */
const patience = 4;

export interface SweptPages extends SweptOnce {
  incomplete: Incomplete[];
}

/** Sweeps the pages on which a source-size list is, or should be, written; of pages of one skeleton a few for all. */
export async function sweepPages(
  context: AuditContext,
  surveyed: readonly SurveyedPage[],
): Promise<SweptPages> {
  const { images, progress, options } = context;
  const wanted = new Map(
    surveyed.flatMap((page) => {
      const own = page.placements.filter((each) => wantsSizes(each, images.files, options.wishes.trifles));
      return own.length > 0 ? [[page.record.path, { page, placements: own }] as const] : [];
    }),
  );
  progress.begin('sweeps', wanted.size);
  const incomplete: Incomplete[] = [];
  const pages: PageToSweep[] = [];
  for (const { page, placements } of wanted.values())
    pages.push({
      path: page.record.path,
      skeleton: await readSkeleton(context, page.record),
      contentHash: (await context.site.hashOf(page.record.file)) ?? '',
      signs: placements.map((placement) => ({
        id: placement.id,
        signs: slotSigns(placement, options.screens),
      })),
    });
  const swept = await sweepTemplates(
    pages,
    async (path) => {
      const found = wanted.get(path);
      if (!found) return undefined;
      const ids = new Set(found.placements.map(({ id }) => id));
      const { sweeps, problem } = await context.inBrowser(() => sweepPage(context, found.page, ids));
      if (problem !== undefined) incomplete.push({ page: path, screen: null, why: problem });
      return sweeps && new Map(sweeps.map((each) => [each.placement, each]));
    },
    (path) => progress.step(path),
  );
  return { ...swept, incomplete };
}

/** Hash of a page's skeleton; empty where its file cannot be read any more. */
async function readSkeleton(
  { site, urls, faults, skeletons }: AuditContext,
  { path, file, base }: PageRecord,
): Promise<string> {
  const known = skeletons.get(path);
  if (known !== undefined) return known;
  const content = await site.read(file).catch(() => undefined);
  const read = (html: string) => skeletonHash(parsePage(html), urls, new URL(base, site.origin).href);
  return (
    (content && faults.attempt('reading the skeleton', { page: path }, () => read(readText(content)))) ?? ''
  );
}

interface SweptPage {
  /** Undefined where it could not be swept. */
  sweeps: SlotSweep[] | undefined;
  problem?: string;
}

async function sweepPage(
  context: AuditContext,
  { record: { path }, known }: SurveyedPage,
  wanted: ReadonlySet<string>,
): Promise<SweptPage> {
  const { site, browser, options } = context;
  const failed = (why: string): SweptPage => ({ sweeps: undefined, problem: `not swept: ${why}` });
  if (context.interrupted) return failed('the audit was interrupted');
  const sweepOnce = async (): Promise<SweptPage> => {
    const record = await context.memory.remember(
      {
        what: 'sweep',
        page: path,
        conditions: allowedBy(context),
      },
      (watch) =>
        context.stages.sweep(browser, {
          url: site.origin + path,
          limitMs: options.pageLimitMs * patience,
          ...accessTo(site, options, watch),
          watch,
        }),
      ({ problem }) => problem === undefined,
    );
    if (record.problem !== undefined) return failed(record.problem);
    const documentOf = await known.documents();
    return {
      sweeps: placementsIn(record, known.byKey, documentOf).flatMap(({ placement, node }) =>
        wanted.has(placement.id)
          ? (context.faults.attempt('fitting sizes', placement, () =>
              toSlotSweep(placement, node, record, options.screens),
            ) ?? [])
          : [],
      ),
    };
  };
  try {
    return await context.twice(sweepOnce, failed);
  } catch (cause) {
    if (cause instanceof BrowserError) throw cause;
    context.faults.note('the sweep', { page: path }, cause);
    return { sweeps: undefined };
  }
}

/** The page's placements as the nodes that they were in the load that was swept. */
function placementsIn(
  { page }: SweepRecord,
  byKey: KnownElements['byKey'],
  documentOf: Awaited<ReturnType<KnownElements['documents']>>,
): { placement: Placement; node: string }[] {
  if (!page) return [];
  return identify(observedIn(page), documentOf).flatMap(({ element: { node }, key }) => {
    const placement = byKey.get(key);
    // Frames are not swept: their width is their own.
    return placement && !placement.frames ? [{ placement, node }] : [];
  });
}
