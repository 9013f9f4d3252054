import { causeInWords } from '../core/wording/words.js';
import { visit, visitWithoutScript, type ObservedPlacement } from '../browser/index.js';
import { candidateUrls, environmentOf, pickImage } from '../core/markup/index.js';
import type { Incomplete, PageRecord, Placement, Screen, WithoutScript } from '../core/run/index.js';
import { findSourceElements, type Page } from '../site/index.js';
import type { AuditContext } from './context.js';
import { readPixels } from '../images/index.js';
import { buildPlacements, parsedImage } from './placements.js';
import { readStylePlaces } from './style-places.js';
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
  const withoutScript = visits.some(({ summary }) => summary.scripted)
    ? await context.inBrowser(() => lookWithoutScript(context, page))
    : { seen: null, incomplete: [] };
  const html = (await site.read(page.file)).toString('utf8');
  const source = findSourceElements(html);
  const base = urls.shorten(
    visits.find(({ summary }) => summary.baseUrl !== '')?.summary.baseUrl ?? page.path,
  );
  await images.read(visits.flatMap(({ summary }) => addressesIn(summary, context)));
  const styles = await readStylePlaces(
    context,
    visits.flatMap(({ summary }) => summary.sheets),
    { file: page.file, base, html },
  );
  const placements = buildPlacements(page, visits, source, urls, images.fileOf, styles);
  const chosen = new Set(visits.flatMap(({ summary }) => summary.matched));
  return {
    record: {
      path: page.path,
      file: page.file,
      base,
      withoutScript: withoutScript.seen,
      weight: context.weights.get(page.path) ?? 0,
      visits: visits.map(({ summary }) => summary.visit),
    },
    placements,
    matched: placements.filter(({ selector }) => chosen.has(selector)).map(({ id }) => id),
    refused: visits.flatMap(({ summary }) => summary.refused),
    incomplete: [
      ...withoutScript.incomplete,
      ...visits.flatMap(({ screen, summary }) =>
        summary.incomplete.map((why) => ({ page: page.path, screen: screen.name, why })),
      ),
    ],
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
    pickOf: (element: ObservedPlacement, baseUrl: string) => pickOf(element, baseUrl, screen),
    ...(options.match === undefined ? {} : { match: options.match }),
  };
  try {
    return await context.twice(
      async () => {
        const record = await visit(browser, order);
        const held =
          record.heldView && (await readPixels(record.heldView, screen.width).catch(() => undefined));
        return summarise(record, screen.name, urls, held);
      },
      (why) => nothingSeen(screen.name, why),
    );
  } finally {
    progress.step();
  }
}

interface Scriptless {
  seen: WithoutScript | null;
  incomplete: Incomplete[];
}

/** What visitors without script get, on the screen with most visits: one look is enough, since script is there or not on all. */
async function lookWithoutScript(context: AuditContext, page: Page): Promise<Scriptless> {
  const { site, browser, options, urls, allows } = context;
  const [screen] = [...options.screens].sort((a, b) => b.share - a.share);
  if (!screen) return { seen: null, incomplete: [] };
  const order = { url: site.origin + page.path, screen, limitMs: options.pageLimitMs, allows };
  const failed = (why: string): Scriptless => ({
    seen: null,
    incomplete: [{ page: page.path, screen: screen.name, why: `without script: ${why}` }],
  });
  try {
    return await context.twice<Scriptless>(async () => {
      const fetched = await visitWithoutScript(browser, order);
      const shown = [...new Set(fetched.map((url) => urls.shorten(url)))].sort();
      return { seen: { urls: shown }, incomplete: [] };
    }, failed);
  } catch (cause) {
    return failed(causeInWords(cause));
  }
}

/** The absolute address that an image will take on a screen, by its markup. */
function pickOf(element: ObservedPlacement, baseUrl: string, screen: Screen): string | undefined {
  const image = parsedImage(element);
  const picked = image && pickImage(image, environmentOf(screen), { autoWidth: element.box?.width })?.url;
  if (picked === undefined) return undefined;
  try {
    return new URL(picked, baseUrl).href;
  } catch {
    return undefined;
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
    visit: {
      screen,
      firstView: none,
      whole: none,
      allBytes: 0,
      documentHeight: 0,
      downloads: [],
      documentWidth: 0,
      largestPaint: null,
      shift: { score: 0, observed: 0, releases: [] },
    },
    baseUrl: '',
    observed: [],
    matched: [],
    sheets: [],
    scripted: false,
    refused: [],
    incomplete: [why],
  };
}
