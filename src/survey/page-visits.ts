import { visit } from '../browser/index.js';
import { candidateUrls } from '../core/markup/index.js';
import type { Incomplete, PageRecord, Placement, Screen } from '../core/run/index.js';
import { findSourceElements, type Page } from '../site/index.js';
import type { AuditContext } from './context.js';
import { buildPlacements, parsedImage } from './placements.js';
import { summarise, type VisitSummary } from './visit-summary.js';

export interface SurveyedPage {
  record: PageRecord;
  placements: Placement[];
  /** Ids of the placements that the audit's selector chose. */
  matched: string[];
  refused: string[];
  incomplete: Incomplete[];
}

/** Visits a page on every screen and joins what was seen. */
export async function surveyPage(context: AuditContext, page: Page): Promise<SurveyedPage> {
  const { site, urls, images, options } = context;
  const visits = await Promise.all(
    options.screens.map(async (screen) => ({
      screen,
      summary: await context.inBrowser(() => visitPage(context, page, screen)),
    })),
  );
  const source = findSourceElements((await site.read(page.file)).toString('utf8'));
  await images.read(visits.flatMap(({ summary }) => addressesIn(summary, context)));
  const placements = buildPlacements(page, visits, source, urls, images.fileOf);
  const chosen = new Set(visits.flatMap(({ summary }) => summary.matched));
  return {
    record: {
      path: page.path,
      file: page.file,
      weight: context.weights.get(page.path) ?? 0,
      visits: visits.map(({ summary }) => summary.visit),
    },
    placements,
    matched: placements.filter(({ selector }) => chosen.has(selector)).map(({ id }) => id),
    refused: visits.flatMap(({ summary }) => summary.refused),
    incomplete: visits.flatMap(({ screen, summary }) =>
      summary.incomplete.map((why) => ({ page: page.path, screen: screen.name, why })),
    ),
  };
}

async function visitPage(context: AuditContext, page: Page, screen: Screen): Promise<VisitSummary> {
  const { site, browser, options, urls, allows, progress } = context;
  const order = {
    url: site.origin + page.path,
    screen,
    limitMs: options.pageLimitMs,
    allows,
    sizeOf: (address: string) => sizeOf(context, address),
    ...(options.match === undefined ? {} : { match: options.match }),
  };
  try {
    return await context.twice(
      async () => summarise(await visit(browser, order), screen.name, urls),
      (why) => nothingSeen(screen.name, why),
    );
  } finally {
    progress.step();
  }
}

/** The size that an image of this site has, from its file. */
async function sizeOf({ urls, images }: AuditContext, address: string) {
  const url = urls.shorten(address);
  await images.read([url]);
  const file = images.fileOf(url);
  return file && file.width > 0 ? { width: file.width, height: file.height } : undefined;
}

/** Every address of an image that the visit knew of, whether it was fetched or not. */
function addressesIn({ observed, visit: seen, baseUrl }: VisitSummary, { urls }: AuditContext): string[] {
  const offered = observed.flatMap((element) => {
    const image = parsedImage(element);
    const written = image ? candidateUrls(image) : [];
    const current = element.currentSrc === '' ? [] : [urls.shorten(element.currentSrc)];
    return [...written.map((url) => urls.resolve(url, baseUrl)), ...current];
  });
  return [...seen.downloads.map(({ url }) => url), ...offered];
}

function nothingSeen(screen: string, why: string): VisitSummary {
  const none = { downloads: 0, bytes: 0 };
  return {
    visit: { screen, firstView: none, whole: none, allBytes: 0, documentHeight: 0, downloads: [] },
    baseUrl: '',
    observed: [],
    matched: [],
    refused: [],
    incomplete: [why],
  };
}
