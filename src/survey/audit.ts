import { Browser } from '../browser/index.js';
import { PriceList } from '../core/bytes/price-list.js';
import { totalsOf } from '../core/bytes/totals.js';
import { checks } from '../core/checks/index.js';
import { factsOf, type Facts, type World } from '../core/judging/facts.js';
import { writeFixes } from '../core/judging/fixes.js';
import { judge } from '../core/judging/judge.js';
import type { Incomplete, Run, Screen } from '../core/run/index.js';
import { encoderVersions } from '../images/index.js';
import type { Site } from '../site/index.js';
import { strangeTraffic } from './traffic.js';
import { AuditContext, type AuditOptions, type Progress } from './context.js';
import type { ImageStore } from './image-store.js';
import { sweepPages } from './page-sweeps.js';
import { surveyPage, type SurveyedPage } from './page-visits.js';
import { makeOffers } from './offers.js';
import { comparePicks } from './pick-agreement.js';
import { price, summarisePricing, type Prices } from './pricing.js';
import { countRefused } from './refused.js';
import { findTwins } from './twins.js';

/** A run with the facts that it was judged by. */
export interface AuditOutcome {
  run: Run;
  facts: Facts;
  /** Ids of the placements that the audit's selector chose. */
  matched: ReadonlySet<string>;
}

/**
 * Audits a site: visits every page on every screen, sweeps and prices what it saw, judges and ranks it.
 * @throws {BrowserError} when no browser can be started
 */
export async function audit(site: Site, options: AuditOptions, progress: Progress): Promise<AuditOutcome> {
  const startedAt = new Date();
  const browser = await Browser.open(options.browser);
  let closing: ImageStore | undefined;
  try {
    const context = new AuditContext(site, browser, options, progress);
    closing = context.images;
    progress.begin('visits', site.pages.length * options.screens.length);
    const pages = await Promise.all(site.pages.map((page) => surveyPage(context, page)));
    const swept = await sweepPages(
      context,
      pages.flatMap((page) => page.placements),
    );
    const { world, prices } = await priceWorld(context, pages, swept.sweeps);
    const incomplete = [...pages, swept, prices].flatMap((stage) => stage.incomplete);
    const sorted = sortIncomplete(incomplete, options.screens);
    const { run, finished } = toRun(context, { world, pages, prices, incomplete: sorted, startedAt });
    return { run, facts: finished, matched: new Set(pages.flatMap((page) => page.matched)) };
  } finally {
    await Promise.all([browser.close(), closing?.close()]);
  }
}

/** Measures prices, and makes what fixes offer. */
async function priceWorld(
  context: AuditContext,
  pages: readonly SurveyedPage[],
  sweeps: Run['sweeps'],
): Promise<{ world: World; prices: Prices }> {
  const { images, options, site } = context;
  const placements = pages.flatMap((page) => page.placements);
  const wide: World = {
    screens: options.screens,
    pages: pages.map(({ record }) => record),
    placements,
    twins: await findTwins(context, placements),
    files: images.files,
    names: new Set(site.names),
    sweeps: new Map(sweeps.map((each) => [each.placement, each])),
    prices: new PriceList(new Map(), images.files),
    placeholders: new Map(),
    crops: new Map(),
    sheets: new Map(),
    reach: options.reach,
    wishes: options.wishes,
  };
  const prices = await price(context, wide);
  const offers = await makeOffers(context, factsOf(wide));
  return { world: { ...wide, ...offers, prices: new PriceList(prices.prices, images.files) }, prices };
}

interface Surveyed {
  world: World;
  pages: readonly SurveyedPage[];
  prices: Prices;
  incomplete: Incomplete[];
  startedAt: Date;
}

function toRun(
  { site, browser, options }: AuditContext,
  { world, pages, prices, incomplete, startedAt }: Surveyed,
): { run: Run; finished: Facts } {
  const judgement = judge(checks, world);
  const { trifles, facts } = judgement;
  const { findings, fixes, ledger } = writeFixes(judgement);
  const run: Run = {
    format: 'yukkuri-run/2',
    site: { kind: site.kind, name: site.name, basePath: site.basePath },
    screens: [...facts.screens],
    pages: [...facts.pages],
    placements: [...facts.placements],
    files: [...facts.files.values()].sort(byUrl),
    sweeps: [...facts.sweeps.values()],
    prices: [...prices.prices.values()].sort(byUrl),
    pricing: summarisePricing(prices, options.looks, fixes),
    picks: comparePicks(facts.placements, 'at-least', facts.files),
    findings,
    fixes,
    ledger,
    totals: totalsOf(facts.pages, facts.screens, ledger),
    trifles,
    refused: countRefused(pages.map(({ record, refused }) => ({ page: record.path, urls: refused }))),
    strangeTraffic: strangeTraffic(site, options.traffic),
    incomplete,
    meta: {
      tool: options.toolVersion,
      browser: `Chromium ${browser.version}`,
      encoder: encoderVersions(),
      startedAt: startedAt.toISOString(),
      elapsedMs: Date.now() - startedAt.getTime(),
    },
  };
  return { run, finished: facts };
}

const byUrl = (a: { url: string }, b: { url: string }) => (a.url < b.url ? -1 : 1);

/** By page, then screen, then reason: never in the order in which things failed. */
function sortIncomplete(incomplete: readonly Incomplete[], screens: readonly Screen[]): Incomplete[] {
  const rank = ({ screen }: Incomplete) => screens.findIndex(({ name }) => name === screen);
  const byText = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);
  return [...incomplete].sort((a, b) => byText(a.page, b.page) || rank(a) - rank(b) || byText(a.why, b.why));
}
