import { Browser } from '../browser/index.js';
import { totalsOf } from '../core/bytes/totals.js';
import { checks, judge, type Facts } from '../core/checks/index.js';
import { writeFixes } from '../core/fixes/fixes.js';
import { defaultReach } from '../core/layout/reach.js';
import type { Incomplete, Run, Screen } from '../core/run/index.js';
import { encoderVersions } from '../images/index.js';
import type { Site } from '../site/index.js';
import { AuditContext, type AuditOptions, type Progress } from './context.js';
import { encodeTable } from './image-store.js';
import { sweepPages } from './page-sweeps.js';
import { surveyPage, type SurveyedPage } from './page-visits.js';
import { comparePicks } from './pick-agreement.js';
import { price, type Prices } from './pricing.js';
import { countRefused } from './refused.js';

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
  try {
    const context = new AuditContext(site, browser, options, progress);
    progress.begin('visits', site.pages.length * options.screens.length);
    const pages = await Promise.all(site.pages.map((page) => surveyPage(context, page)));
    const placements = pages.flatMap((page) => page.placements);
    const swept = await sweepPages(context, placements);
    const prices = await price(context, placements, swept.sweeps);
    const incomplete = [...pages, swept, prices].flatMap((stage) => stage.incomplete);
    const facts = toFacts(context, pages, swept.sweeps, prices);
    const run = toRun(context, facts, pages, prices, sortIncomplete(incomplete, options.screens), startedAt);
    return { run, facts, matched: new Set(pages.flatMap((page) => page.matched)) };
  } finally {
    await browser.close();
  }
}

function toFacts(
  { images, options }: AuditContext,
  pages: readonly SurveyedPage[],
  sweeps: Run['sweeps'],
  { proposals, encodes }: Prices,
): Facts {
  return {
    screens: options.screens,
    pages: pages.map(({ record }) => record),
    placements: pages.flatMap((page) => page.placements),
    files: images.files,
    proposals,
    sweeps: new Map(sweeps.map((each) => [each.placement, each])),
    encodes: encodeTable(encodes),
    reach: defaultReach,
  };
}

function toRun(
  { site, browser, options }: AuditContext,
  facts: Facts,
  pages: readonly SurveyedPage[],
  { encodes }: Prices,
  incomplete: Incomplete[],
  startedAt: Date,
): Run {
  const { findings, trifles } = judge(checks, facts);
  const fixes = writeFixes(findings, facts);
  return {
    format: 'yukkuri-run/1',
    site: { kind: site.kind, name: site.name, basePath: site.basePath },
    screens: [...facts.screens],
    pages: [...facts.pages],
    placements: [...facts.placements],
    files: [...facts.files.values()].sort((a, b) => (a.url < b.url ? -1 : 1)),
    sweeps: [...facts.sweeps.values()],
    encodes,
    picks: comparePicks(facts.placements, 'at-least', facts.files),
    findings: findings.map(({ finding }) => finding),
    fixes,
    totals: totalsOf(facts.pages, facts.screens, fixes, facts.reach),
    trifles,
    refused: countRefused(pages.map(({ record, refused }) => ({ page: record.path, urls: refused }))),
    incomplete,
    meta: {
      tool: options.toolVersion,
      browser: `Chromium ${browser.version}`,
      encoder: encoderVersions(),
      startedAt: startedAt.toISOString(),
      elapsedMs: Date.now() - startedAt.getTime(),
    },
  };
}

/** By page, then screen, then reason: never in the order in which things failed. */
function sortIncomplete(incomplete: readonly Incomplete[], screens: readonly Screen[]): Incomplete[] {
  const rank = ({ screen }: Incomplete) => screens.findIndex(({ name }) => name === screen);
  const byText = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);
  return [...incomplete].sort((a, b) => byText(a.page, b.page) || rank(a) - rank(b) || byText(a.why, b.why));
}
