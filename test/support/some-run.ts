import type {
  Download,
  Finding,
  Fix,
  LedgerEntry,
  PageRecord,
  Run,
  VisitRecord,
} from '../../src/core/run/index.js';
import { oneScreen } from './facts.js';

export const someDownload = (url: string, bytes: number, facts: Partial<Download> = {}): Download => ({
  url,
  bytes,
  type: 'image/jpeg',
  status: 200,
  began: 'first-view',
  scrollDepth: 0,
  ...facts,
});

export const someVisit = (facts: Partial<VisitRecord> = {}): VisitRecord => ({
  screen: 'desk',
  state: 'complete',
  firstView: { downloads: 0, bytes: 0 },
  whole: { downloads: 0, bytes: 0 },
  byItself: { downloads: 0, bytes: 0 },
  allBytes: 0,
  documentHeight: 2000,
  documentWidth: 1000,
  downloads: [],
  largestPaint: null,
  shift: { score: 0, observed: 0, releases: [] },
  ...facts,
});

export const somePage = (facts: Partial<PageRecord> & { path: string }): PageRecord => ({
  file: `${facts.path.slice(1)}index.html`,
  base: facts.path,
  weight: 1,
  withoutScript: null,
  visits: [someVisit()],
  ...facts,
});

export const someFinding = (check: string, placement: string, saves = 0, more: object = {}): Finding => ({
  check,
  placement,
  says: `${check} at ${placement}`,
  screens: { desk: { saves, ...more } },
});

const nothing = { expected: 0, firstView: 0, whole: 0, unsure: 0, screens: {} };

export const someFix = (facts: Partial<Fix> & { id: string }): Fix => ({
  kind: 'edit',
  checks: [],
  title: facts.id,
  saves: nothing,
  alone: nothing,
  steps: [],
  sureness: 'measured',
  shift: 0,
  findings: [],
  pages: [],
  places: [],
  edits: [],
  files: [],
  notes: [],
  ...facts,
});

export const someEntry = (facts: Partial<LedgerEntry> & { url: string }): LedgerEntry => ({
  page: '/',
  screen: 'desk',
  placements: [],
  delivered: 0,
  cuts: [],
  remains: 0,
  expected: 0,
  expectedRemains: 0,
  ...facts,
});

const noTotals = {
  screen: 'average',
  firstView: 0,
  whole: 0,
  expected: 0,
  expectedAfter: 0,
  notJudged: 0,
  byItself: 0,
  allBytes: 0,
};

/** A run of which only what is given matters to the test. */
export const someRun = (facts: Partial<Run> = {}): Run => ({
  format: 'yukkuri-run/2',
  site: { kind: 'folder', name: 'site', basePath: '/' },
  screens: [oneScreen],
  conditions: { lazyDistance: 1250, timersRunAheadMs: 0, sharpness: null, reach: [] },
  pages: [somePage({ path: '/' })],
  placements: [],
  files: [],
  sweeps: [],
  prices: [],
  pricing: { looks: 73, worthPricing: 0, encoded: 0, economical: 0, left: 0, limited: false },
  picks: { strategy: 'at-least', agree: 0, compared: 0, disagreements: [] },
  findings: [],
  fixes: [],
  ledger: [],
  totals: { screens: [], average: noTotals },
  trifles: { findings: 0, bytes: 0 },
  leftOut: [],
  notJudged: [],
  redirected: [],
  refused: [],
  strangeTraffic: [],
  incomplete: [],
  meta: {
    tool: '1',
    browser: 'b',
    encoder: 'e',
    startedAt: '2026-01-01T00:00:00.000Z',
    elapsedMs: 0,
    browserRestarts: 0,
  },
  ...facts,
});
