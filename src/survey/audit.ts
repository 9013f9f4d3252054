import { keyOf, KeptValues } from '../cache/index.js';
import { Browser, measuringVersion, timersRunAheadMs, usualLazyDistance } from '../browser/index.js';
import { PriceList } from '../core/bytes/price-list.js';
import { notJudged } from '../core/bytes/not-judged.js';
import { totalsOf } from '../core/bytes/totals.js';
import { againTotals, usualReturning } from '../core/headers/again.js';
import { factsOf, type Facts, type World } from '../core/judging/facts.js';
import { Exceptions } from '../core/judging/exceptions.js';
import { writeFixes } from '../core/judging/fixes.js';
import { judge } from '../core/judging/judge.js';
import { guessHosts } from '../core/plan/host-guess.js';
import { wasSeen } from '../core/bytes/visit-weights.js';
import type { Incomplete, ReadTemplate, Run, Screen, SweepTemplate } from '../core/run/index.js';
import { encoderVersions } from '../images/index.js';
import type { Site } from '../site/index.js';
import { reachTo } from './access.js';
import { SiteUrls } from './site-urls.js';
import { strangeTraffic } from './traffic.js';
import { AuditContext, type AuditOptions, type Progress } from './context.js';
import { readImageAnswers } from './image-answers.js';
import type { ImageStore } from './image-store.js';
import { keepFileTimes, makeRoom, PageMemory, trustFileTimes } from './page-memory.js';
import { sweepPages } from './page-sweeps.js';
import type { SurveyedPage } from './page-visits.js';
import { surveySite } from './reading/read-site.js';
import { makeOffers } from './offers.js';
import { comparePicks } from './pick-agreement.js';
import { price, summarisePricing, type Prices } from './pricing.js';
import { countRefused } from './refused.js';
import { findTwins } from './twins.js';

/** A run with the facts that it was judged by. */
export interface AuditOutcome {
  run: Run;
  facts: Facts;
  /** Ids of the placements that each of the audit's selectors chose. */
  matched: ReadonlyMap<string, ReadonlySet<string>>;
}

/**
 * Audits a site: visits every page on every screen, sweeps and prices what it saw, judges and ranks it.
 * @throws {BrowserError} when no browser can be started
 */
export async function audit(site: Site, options: AuditOptions, progress: Progress): Promise<AuditOutcome> {
  const [startedAt, begunAtMs] = [new Date(), performance.now()];
  const urls = new SiteUrls(site.origin);
  const browser = await Browser.find(options.browser, reachTo([site], options));
  const kept = new KeptValues(options.cacheFolder);
  let closing: ImageStore | undefined;
  try {
    const browserVersion = await versionOf(browser, kept);
    const version = JSON.stringify([options.toolVersion, browserVersion, await measuringVersion()]);
    if (options.trustTimes !== false) await trustFileTimes(kept, site);
    const memory = new PageMemory(kept, site, urls, version, options.fresh);
    const context = new AuditContext(site, browser, options, progress, memory, kept);
    closing = context.images;
    const distance = findLazyDistance(context, kept, version);
    const { pages, templates } = await surveySite(context);
    const swept = await sweepPages(context, pages);
    const counted = weighSeen(pages);
    const answers = await readImageAnswers(
      context,
      counted.map(({ record }) => record),
    );
    const { world, prices } = await priceWorld(
      context,
      counted,
      { sweeps: swept.sweeps, answers },
      await distance,
    );
    const unread = site.problems.map(({ file, why }) => ({ page: file, screen: null, why }));
    const incomplete = [...unread, ...[...pages, swept, prices].flatMap((stage) => stage.incomplete)];
    const { run, finished } = toRun(context, {
      world,
      pages,
      sweptTemplates: swept.templates,
      readTemplates: templates,
      prices,
      incomplete,
      browserVersion,
      startedAt,
      begunAtMs,
    });
    await keepFileTimes(kept, site);
    await makeRoom(kept);
    return { run, facts: finished, matched: matchedIn(pages) };
  } finally {
    await Promise.all([browser.close(), closing?.close()]);
  }
}

function matchedIn(pages: readonly SurveyedPage[]): Map<string, Set<string>> {
  const all = new Map<string, Set<string>>();
  for (const { matched } of pages)
    for (const [selector, ids] of matched) all.set(selector, new Set([...(all.get(selector) ?? []), ...ids]));
  return all;
}

/** Of a browser that needs no start to be known the version is remembered. */
async function versionOf(browser: Browser, kept: KeptValues): Promise<string> {
  const { identity } = browser.found;
  const start = async () => {
    await browser.start();
    return browser.version;
  };
  if (identity === undefined) return start();
  return kept.remember(keyOf('known', 'version of the browser', identity), isText, start);
}

const isText = (value: unknown): value is string => typeof value === 'string';

async function findLazyDistance(context: AuditContext, kept: KeptValues, version: string): Promise<number> {
  const key = keyOf('known', 'distance of lazy images', version);
  const usual = (cause: unknown) => {
    context.faults.note('measuring how early lazy images load', { page: '' }, cause);
    return usualLazyDistance;
  };
  const { fresh } = context.options;
  const fits = (value: unknown): value is number => !fresh && typeof value === 'number';
  const measure = () => context.stages.lazyDistance(context.browser);
  const remembered = () => kept.remember(key, fits, measure);
  return context.twice(remembered, usual).catch(usual);
}

/** Pages of which nothing was seen count in no average: the others share the visits out anew. */
function weighSeen(pages: readonly SurveyedPage[]): readonly SurveyedPage[] {
  const isSeen = ({ record }: SurveyedPage) => record.visits.some(wasSeen);
  const sum = pages.reduce((total, page) => total + (isSeen(page) ? page.record.weight : 0), 0);
  if (sum === 0) return pages;
  return pages.map((page) => ({
    ...page,
    record: { ...page.record, weight: isSeen(page) ? page.record.weight / sum : 0 },
  }));
}

/** Measures prices, and makes what fixes offer. */
async function priceWorld(
  context: AuditContext,
  pages: readonly SurveyedPage[],
  { sweeps, answers }: { sweeps: Run['sweeps']; answers: World['answers'] },
  lazyDistance: number,
): Promise<{ world: World; prices: Prices }> {
  const { images, options, site } = context;
  const placements = pages.flatMap((page) => page.placements);
  const wide: World = {
    screens: options.screens,
    pages: pages.map(({ record }) => record),
    placements,
    twins: await findTwins(context, placements).catch((cause: unknown) => {
      context.faults.note('looking for versions of one picture', { page: '' }, cause);
      return new Map<string, string[]>();
    }),
    files: images.files,
    ...(answers && answers.size > 0 ? { answers } : {}),
    ...(context.hosts.hosts.length > 0 ? { hosts: context.hosts } : {}),
    names: new Set(site.names),
    sweeps: new Map(sweeps.map((each) => [each.placement, each])),
    prices: new PriceList(new Map(), images.files),
    placeholders: new Map(),
    crops: new Map(),
    sheets: new Map(),
    reach: options.reach,
    lazyDistance,
    wishes: options.wishes,
    exceptions: new Exceptions(options.exceptions ?? [], matchedIn(pages), options.today ?? ''),
    faults: context.faults,
  };
  const prices = await price(context, wide);
  const offers = await makeOffers(context, factsOf(wide));
  return { world: { ...wide, ...offers, prices: new PriceList(prices.prices, images.files) }, prices };
}

interface Surveyed {
  world: World;
  pages: readonly SurveyedPage[];
  sweptTemplates: SweepTemplate[];
  readTemplates: ReadTemplate[];
  prices: Prices;
  incomplete: Incomplete[];
  browserVersion: string;
  startedAt: Date;
  /** `performance.now`. */
  begunAtMs: number;
}

function toRun(
  { site, browser, options, stages, faults, memory }: AuditContext,
  {
    world,
    pages,
    sweptTemplates,
    readTemplates,
    prices,
    incomplete,
    browserVersion,
    startedAt,
    begunAtMs,
  }: Surveyed,
): { run: Run; finished: Facts } {
  const judgement = judge(stages.checks, world);
  const { trifles, facts } = judgement;
  const nothing = { findings: [], fixes: [], ledger: [] };
  const written = faults.attempt('writing the fixes', { page: '' }, () => writeFixes(judgement));
  const { findings, fixes, ledger } = written ?? nothing;
  // Of pages that were read nobody observed what is picked.
  const readPages = new Map(
    facts.pages.flatMap(({ path, read, visitedOn }) => (read ? [[path, new Set(visitedOn)] as const] : [])),
  );
  const guesses = guessHosts(
    facts.placements.map(({ candidates }) => candidates),
    facts.files,
    facts.hosts,
  );
  const run: Run = {
    format: 'yukkuri-run/2',
    site: { kind: site.kind, name: site.name, basePath: site.basePath },
    screens: [...facts.screens],
    conditions: {
      lazyDistance: facts.lazyDistance,
      timersRunAheadMs,
      sharpness: Number.isFinite(options.wishes.sharpness) ? options.wishes.sharpness : null,
      reach: [...options.reach],
    },
    pages: [...facts.pages],
    placements: [...facts.placements],
    files: [...facts.files.values()].sort(byUrl),
    ...(facts.answers ? { answers: [...facts.answers.values()] } : {}),
    sweeps: [...facts.sweeps.values()],
    sweptTemplates,
    readTemplates,
    prices: [...prices.prices.values()].sort(byUrl),
    pricing: summarisePricing(prices, options.looks, fixes),
    picks: comparePicks(
      facts.placements,
      'at-least',
      facts.files,
      (page, screen) => readPages.get(page)?.has(screen) ?? true,
    ),
    findings,
    fixes,
    ledger,
    totals: totalsOf(facts.pages, facts.screens, ledger),
    ...(facts.answers
      ? { again: againTotals({ ...facts, answers: facts.answers }, options.returning ?? usualReturning) }
      : {}),
    ...(guesses.length > 0 ? { hostGuesses: guesses } : {}),
    trifles,
    leftOut: judgement.leftOut,
    notJudged: notJudged(facts.pages, facts.screens, ledger),
    redirected: [
      ...(site.redirected ?? []),
      ...pages.flatMap(({ record, leadsTo }) =>
        leadsTo === undefined ? [] : [{ page: record.path, to: leadsTo }],
      ),
    ],
    refused: countRefused(
      pages.map(({ record, refused, unlisted }) => ({ page: record.path, urls: refused, unlisted })),
    ),
    strangeTraffic: strangeTraffic(site, options.traffic),
    incomplete: sortIncomplete([...incomplete, ...faults.list], options.screens),
    meta: {
      tool: options.toolVersion,
      browser: `Chromium ${browserVersion}`,
      encoder: encoderVersions(),
      startedAt: startedAt.toISOString(),
      // Of a clock that nobody sets.
      elapsedMs: Math.round(performance.now() - begunAtMs),
      browserRestarts: browser.restarts,
      browserRenewals: browser.renewals,
      looks: memory.counts,
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
