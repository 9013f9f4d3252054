import pLimit from 'p-limit';
import {
  Browser,
  BrowserError,
  sweep,
  visit,
  type BrowserOptions,
  type SweepRecord,
} from '../browser/index.js';
import { totalsOf } from '../core/bytes/totals.js';
import { wantedEncodes } from '../core/bytes/wanted-encodes.js';
import { checks, defaultTrifles, judge, type Facts } from '../core/checks/index.js';
import { writeFixes } from '../core/fixes/fixes.js';
import { proposeCandidates, type CandidateProposal } from '../core/fixes/proposal.js';
import { narrowProposals, wantsSizes } from './proposals.js';
import { toSlotSweep } from './sweeps.js';
import { defaultReach } from '../core/layout/reach.js';
import type { Incomplete, PageRecord, Placement, Run, Screen, SlotSweep } from '../core/run/index.js';
import { encoderVersions } from '../images/index.js';
import { findSourceElements, type Page, type Site } from '../site/index.js';
import { encodeTable, ImageStore } from './image-store.js';
import { comparePicks } from './pick-agreement.js';
import { buildPlacements, parsedImage } from './placements.js';
import { countRefused } from './refused.js';
import { SiteUrls } from './site-urls.js';
import { candidateUrls } from '../core/markup/index.js';
import { summarise, type VisitSummary } from './visit-summary.js';

export interface AuditOptions {
  screens: readonly Screen[];
  browser?: BrowserOptions;
  /** Time limit for one page on one screen, ms. */
  pageLimitMs: number;
  /** Visits at once. */
  atOnce: number;
  /** Whether a page may ask other hosts. */
  allowOtherHosts: boolean;
  /** A CSS selector; the outcome tells which placements it chose. */
  match?: string;
  toolVersion: string;
}

export interface Progress {
  begin(stage: string, total: number): void;
  step(): void;
}

/**
 * Audits a site: visits every page on every screen, prices what it saw, judges and ranks it.
 * @throws {BrowserError} when no browser can be started
 */
export async function audit(site: Site, options: AuditOptions, progress: Progress): Promise<Run> {
  return (await auditWithFacts(site, options, progress)).run;
}

/** An audit with the facts that its run was judged by. */
export interface AuditOutcome {
  run: Run;
  facts: Facts;
  /** Ids of the placements that `match` chose. */
  matched: ReadonlySet<string>;
}

/** @throws {BrowserError} when no browser can be started */
export async function auditWithFacts(
  site: Site,
  options: AuditOptions,
  progress: Progress,
): Promise<AuditOutcome> {
  const startedAt = new Date();
  const browser = await Browser.open(options.browser);
  try {
    return await new Audit(site, browser, options, progress).run(startedAt);
  } finally {
    await browser.close();
  }
}

/** A sweep looks at a hundred widths and more: it may take so many times as long as one visit. */
const sweepPatience = 4;

interface SurveyedPage {
  record: PageRecord;
  placements: Placement[];
  matched: string[];
  refused: string[];
  incomplete: Incomplete[];
}

class Audit {
  readonly #urls: SiteUrls;
  readonly #images: ImageStore;
  readonly #visits: ReturnType<typeof pLimit>;

  constructor(
    readonly site: Site,
    readonly browser: Browser,
    readonly options: AuditOptions,
    readonly progress: Progress,
  ) {
    this.#urls = new SiteUrls(site.origin);
    this.#images = new ImageStore(site, this.#urls, options.atOnce);
    this.#visits = pLimit(options.atOnce);
  }

  async run(startedAt: Date): Promise<AuditOutcome> {
    const { site, browser } = this;
    const screens = [...this.options.screens];
    this.progress.begin('visits', site.pages.length * screens.length);
    const surveyed = await Promise.all(site.pages.map((page) => this.#surveyPage(page)));
    const placements = surveyed.flatMap((page) => page.placements);
    const incomplete = surveyed.flatMap((page) => page.incomplete);
    const sweeps = await this.#sweep(placements, incomplete);
    const wide = this.#propose(placements, sweeps);
    const encodes = await this.#encode(wide, placements, incomplete);
    const proposals = narrowProposals(wide, screens, encodes);
    const facts: Facts = {
      screens,
      pages: surveyed.map(({ record }) => record),
      placements,
      files: this.#images.files,
      proposals,
      sweeps: new Map(sweeps.map((each) => [each.placement, each])),
      encodes: encodeTable(encodes),
      reach: defaultReach,
    };
    const { findings, trifles } = judge(checks, facts);
    const fixes = writeFixes(findings, facts);
    const run: Run = {
      format: 'yukkuri-run/1',
      site: { kind: site.kind, name: site.name, basePath: site.basePath },
      screens,
      pages: facts.pages as PageRecord[],
      placements,
      files: [...this.#images.files.values()].sort((a, b) => (a.url < b.url ? -1 : 1)),
      sweeps,
      encodes,
      picks: comparePicks(placements, 'at-least', this.#images.files),
      findings: findings.map(({ finding }) => finding),
      fixes,
      totals: totalsOf(facts.pages, screens, fixes, facts.reach),
      trifles,
      refused: countRefused(surveyed.map(({ record, refused }) => ({ page: record.path, urls: refused }))),
      incomplete,
      meta: {
        tool: this.options.toolVersion,
        browser: `Chromium ${browser.version}`,
        encoder: encoderVersions(),
        startedAt: startedAt.toISOString(),
        elapsedMs: Date.now() - startedAt.getTime(),
      },
    };
    return { run, facts, matched: new Set(surveyed.flatMap((page) => page.matched)) };
  }

  async #surveyPage(page: Page): Promise<SurveyedPage> {
    const { screens } = this.options;
    const visits = await Promise.all(
      screens.map(async (screen) => ({
        screen,
        summary: await this.#visits(() => this.#visitOnce(page, screen)),
      })),
    );
    const source = findSourceElements((await this.site.read(page.file)).toString('utf8'));
    await this.#images.read(visits.flatMap(({ summary }) => this.#addresses(summary)));
    const placements = buildPlacements(page, visits, source, this.#urls, this.#images.fileOf);
    const chosen = new Set(visits.flatMap(({ summary }) => summary.matched));
    return {
      record: {
        path: page.path,
        file: page.file,
        weight: 1 / this.site.pages.length,
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

  /** Every address of an image that the visit knew of, whether it was fetched or not. */
  #addresses({ observed, visit, baseUrl }: VisitSummary): string[] {
    const offered = observed.flatMap((element) => {
      const image = parsedImage(element);
      const written = image ? candidateUrls(image) : [];
      const current = element.currentSrc === '' ? [] : [this.#urls.shorten(element.currentSrc)];
      return [...written.map((url) => this.#urls.resolve(url, baseUrl)), ...current];
    });
    return [...visit.downloads.map(({ url }) => url), ...offered];
  }

  /** One visit; if the browser dies in it, once more in a new one. */
  async #visitOnce(page: Page, screen: Screen): Promise<VisitSummary> {
    const order = {
      url: this.site.origin + page.path,
      screen,
      limitMs: this.options.pageLimitMs,
      ...(this.options.match === undefined ? {} : { match: this.options.match }),
      allows: (url: string) => this.#allows(url),
    };
    try {
      for (let attempt = 1; ; attempt++) {
        try {
          return summarise(await visit(this.browser, order), screen.name, this.#urls);
        } catch (cause) {
          if (!(cause instanceof BrowserError) || cause.code !== 'BROWSER_DIED') throw cause;
          if (attempt === 2) return nothingSeen(screen.name, `${cause.message}, twice`);
        }
      }
    } finally {
      this.progress.step();
    }
  }

  /** Sweeps the pages on which a source-size list is, or should be, written. */
  async #sweep(placements: readonly Placement[], incomplete: Incomplete[]): Promise<SlotSweep[]> {
    const wanting = placements.filter((placement) => wantsSizes(placement, this.#images.files));
    const pages = this.site.pages.filter(({ path }) => wanting.some(({ page }) => page === path));
    this.progress.begin('sweeps', pages.length);
    const swept = await Promise.all(
      pages.map((page) =>
        this.#visits(async () => {
          const record = await this.#sweepOnce(page);
          if (record.problem)
            incomplete.push({ page: page.path, screen: null, why: `not swept: ${record.problem}` });
          this.progress.step();
          return wanting
            .filter((placement) => placement.page === page.path)
            .flatMap((placement) => toSlotSweep(placement, record) ?? []);
        }),
      ),
    );
    return swept.flat();
  }

  async #sweepOnce(page: Page): Promise<SweepRecord> {
    const order = {
      url: this.site.origin + page.path,
      limitMs: this.options.pageLimitMs * sweepPatience,
      allows: (url: string) => this.#allows(url),
    };
    try {
      return await sweep(this.browser, order);
    } catch (cause) {
      if (!(cause instanceof BrowserError) || cause.code !== 'BROWSER_DIED') throw cause;
      return {
        slots: new Map(),
        dependsOnHeight: new Set(),
        widthFromFile: new Set(),
        widths: 0,
        page: undefined,
        problem: cause.message,
      };
    }
  }

  #allows(url: string): boolean {
    return this.options.allowOtherHosts || this.#urls.isOwn(url) || /^(data|blob|about):/.test(url);
  }

  #propose(placements: readonly Placement[], sweeps: readonly SlotSweep[]): Map<string, CandidateProposal> {
    const written = new Map(sweeps.map((each) => [each.placement, each]));
    const proposals = new Map<string, CandidateProposal>();
    for (const placement of placements) {
      const proposal = proposeCandidates(placement, this.options.screens, this.#images.files);
      if (!proposal) continue;
      const { write, constant } = written.get(placement.id) ?? {};
      if (typeof write === 'string') proposal.sizes = write;
      if (typeof constant === 'number') proposal.constant = constant;
      proposals.set(placement.id, proposal);
    }
    return proposals;
  }

  async #encode(
    proposals: ReadonlyMap<string, CandidateProposal>,
    placements: readonly Placement[],
    incomplete: Incomplete[],
  ) {
    const wanted = wantedEncodes(placements, proposals, this.#images.files, defaultTrifles);
    this.progress.begin('encodes', wanted.length);
    const problems = new Map<string, string>();
    const encodes = await this.#images.encode(
      wanted,
      () => this.progress.step(),
      (url, why) => problems.set(url, why),
    );
    for (const [url, why] of [...problems].sort(([a], [b]) => (a < b ? -1 : 1))) {
      const page = placements.find(({ candidates }) => candidates.includes(url))?.page ?? '';
      incomplete.push({ page, screen: null, why: `${url} cannot be encoded, so it has no price: ${why}` });
    }
    return encodes;
  }
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
