import pLimit from 'p-limit';
import {
  BrowserError,
  measureLazyDistance,
  sweep,
  visit,
  visitWithoutScript,
  type Browser,
  type BrowserOptions,
  type Preparation,
} from '../browser/index.js';
import { checks } from '../core/checks/index.js';
import type { Check } from '../core/judging/check.js';
import { Faults } from '../core/judging/faults.js';
import type { Wishes } from '../core/judging/facts.js';
import type { ExceptionRule } from '../core/judging/exceptions.js';
import type { ReachCurve } from '../core/layout/reach.js';
import { ImageHost, ImageHosts } from '../core/plan/image-host.js';
import { SharedTexts } from '../core/shared-texts.js';
import type { Screen } from '../core/run/index.js';
import type { KeptValues } from '../cache/index.js';
import { MeasuredCache, readImageFacts, type Measurer } from '../images/index.js';
import type { Site, StyleImage } from '../site/index.js';
import type { EarlyFix } from './early-ranking.js';
import { ImageStore } from './image-store.js';
import type { PageMemory } from './page-memory.js';
import { SecondLooks } from './second-looks.js';
import { pageWeights } from './traffic.js';
import { SiteUrls } from './site-urls.js';

export interface AuditOptions {
  screens: readonly Screen[];
  browser?: BrowserOptions;
  /** Time limit for one page on one screen, ms. */
  pageLimitMs: number;
  /** Visits at once. */
  atOnce: number;
  /** Whether a page may ask other hosts. */
  allowOtherHosts: boolean;
  /** What is done with each page before it is looked at. */
  prepare?: Preparation;
  /** CSS selectors; the outcome tells which placements each of them chose. */
  match?: readonly string[];
  /** Findings that the user does not want to be told of. */
  exceptions?: readonly ExceptionRule[];
  /** The day of the audit, as 2026-11-26: exceptions end. */
  today?: string;
  toolVersion: string;
  /** What the user wants proposed. */
  wishes: Wishes;
  /** JPEG quality that stands for equal looks. */
  looks: number;
  reach: ReachCurve;
  /** Visits by page path, as far as they are known; undefined counts all pages alike. */
  traffic?: ReadonlyMap<string, number>;
  /** URI Templates of hosts that give pictures in any width by their addresses. */
  imageHosts?: readonly string[];
  /** Share of visits that come back; three in ten if left out. */
  returning?: number;
  /** How much is encoded: nothing, until the order of the first fixes is settled, or all. */
  encode: 'none' | 'enough' | 'all';
  /** Encodes stop after work that takes so long on an ordinary processor, ms. */
  encodeLimitMs?: number;
  /** Where measurements of pictures and what was seen of pages are kept; undefined keeps none. */
  cacheFolder?: string;
  /** Visits every page of large sites too, whatever their files tell; they are read where that is enough if left out. */
  everyPage?: boolean;
  /** Looks at every page anew, whatever is kept of it. */
  fresh?: boolean;
  /** Files of the same size and times as before are taken to be the same; they are if left out. */
  trustTimes?: boolean;
  stages?: Partial<Stages>;
  /** Once aborted nothing new is begun; what is open is finished. */
  interrupted?: AbortSignal;
}

/** What an audit does its work with. Tests put others in their place, to see what a fault costs. */
export interface Stages {
  lazyDistance: typeof measureLazyDistance;
  visit: typeof visit;
  visitWithoutScript: typeof visitWithoutScript;
  sweep: typeof sweep;
  readFacts: typeof readImageFacts;
  /** Measures one picture; in processes of their own if left out. */
  measure?: Measurer['work'];
  checks: readonly Check[];
}

export interface Progress {
  begin(stage: string, total: number): void;
  /** @param what was done, to be shown: a page */
  step(what?: string): void;
  /** Where it is there, it is told the first fixes as they rank by now, again and again while pictures are encoded. */
  ranking?: ((fixes: readonly EarlyFix[]) => void) | undefined;
}

/** What all stages of one audit share. */
export class AuditContext {
  readonly urls: SiteUrls;
  readonly images: ImageStore;
  /** Each page's share of visits, by path. */
  readonly weights: ReadonlyMap<string, number>;
  readonly faults = new Faults();
  readonly hosts: ImageHosts;
  /** Of what was seen of pages, which is kept by thousands. */
  readonly texts = new SharedTexts();
  /** Images that style sheets name, by the sheet’s file: most pages of a site share their sheets. */
  readonly sheetImages = new Map<string, Promise<StyleImage[] | undefined>>();
  /** Hashes of the pages' skeletons, by path, as far as they were read. */
  readonly skeletons = new Map<string, string>();
  readonly stages: Stages;
  readonly secondLooks = new SecondLooks();
  /** Runs work in the browser, a few at once. */
  readonly inBrowser: ReturnType<typeof pLimit>;

  constructor(
    readonly site: Site,
    readonly browser: Browser,
    readonly options: AuditOptions,
    readonly progress: Progress,
    readonly memory: PageMemory,
    readonly kept: KeptValues,
  ) {
    this.urls = new SiteUrls(site.origin);
    this.hosts = new ImageHosts((options.imageHosts ?? []).map((template) => new ImageHost(template)));
    this.stages = {
      lazyDistance: measureLazyDistance,
      visit,
      visitWithoutScript,
      sweep,
      checks,
      readFacts: readImageFacts,
      ...options.stages,
    };
    this.images = new ImageStore(site, this.urls, new MeasuredCache(kept), this.stages);
    this.weights = pageWeights(site, options.traffic);
    this.inBrowser = pLimit(options.atOnce);
  }

  /** Whether the user wants an end. */
  get interrupted(): boolean {
    return this.options.interrupted?.aborted ?? false;
  }

  /**
   * Does something in the browser; if the browser dies in it, once more in a new one.
   * @param died gives the result if it dies again
   */
  async twice<Result>(work: () => Promise<Result>, died: (why: string) => Result): Promise<Result> {
    for (let attempt = 1; ; attempt++) {
      try {
        return await work();
      } catch (cause) {
        if (!(cause instanceof BrowserError) || cause.code !== 'BROWSER_DIED') throw cause;
        if (attempt === 2) return died(`${cause.message}, twice`);
      }
    }
  }
}
