import type { Finding, Run, ScreenTotals, VisitRecord } from '../run/types.js';
import { pageOf } from '../run/placement-id.js';
import { compareDownloads, type ComparedDownload } from './compare-downloads.js';
import { compareFixes, type ComparedFix } from './compare-fixes.js';
import { growth, type ByChange, type Pair } from './change.js';
import { matchPlacements } from './match-placements.js';
import { usualNoise, type Noise } from './noise.js';

export interface ComparedTotals {
  screen: string;
  firstView: Pair;
  whole: Pair;
  expected: Pair;
  needed: Pair;
}

export interface ComparedVisit {
  page: string;
  screen: string;
  firstView: Pair;
  whole: Pair;
  shift: Pair;
}

export interface ComparedFinding {
  check: string;
  placement: string;
  page: string;
  says: string;
  /** What the finding costs an average visit of its page, bytes. */
  cost: Pair;
}

/** What is different between two runs. What did not change by more than a trifle is left out. */
export interface RunComparison {
  totals: ComparedTotals[];
  pages: { appeared: string[]; went: string[]; visits: ComparedVisit[] };
  findings: ByChange<ComparedFinding>;
  fixes: ByChange<ComparedFix>;
  downloads: ComparedDownload[];
  /** What differs by less is left out, or is neither better nor worse. */
  noise: Noise;
  /** Said where the two cannot be compared whole. */
  notes: string[];
}

/** Compares two runs of a site: what got better, worse, appeared and went. */
export function compareRuns(
  before: Readonly<Run>,
  after: Readonly<Run>,
  noise: Partial<Noise> = {},
): RunComparison {
  const limits = { ...usualNoise, ...noise };
  const matched = matchPlacements(before, after);
  const paths = (run: Readonly<Run>) => new Set(run.pages.map(({ path }) => path));
  const [was, is] = [paths(before), paths(after)];
  return {
    totals: compareTotals(before, after),
    pages: {
      appeared: [...is].filter((path) => !was.has(path)),
      went: [...was].filter((path) => !is.has(path)),
      visits: compareVisits(before, after, limits),
    },
    findings: compareFindings(before, after, matched, limits.bytes),
    fixes: compareFixes(before, after, matched, limits.bytes),
    downloads: compareDownloads(before, after, was, is),
    noise: limits,
    notes: notesOf(before, after),
  };
}

function compareTotals(before: Readonly<Run>, after: Readonly<Run>): ComparedTotals[] {
  const rows = (run: Readonly<Run>) =>
    new Map<string, ScreenTotals>(
      [...run.totals.screens, run.totals.average].map((each) => [each.screen, each]),
    );
  const was = rows(before);
  return [...rows(after)].flatMap(([screen, now]) => {
    const then = was.get(screen);
    if (!then) return [];
    return [
      {
        screen,
        firstView: { before: then.firstView, after: now.firstView },
        whole: { before: then.whole, after: now.whole },
        expected: { before: then.expected, after: now.expected },
        needed: { before: then.expectedAfter, after: now.expectedAfter },
      },
    ];
  });
}

const visitsOf = (run: Readonly<Run>) =>
  new Map(
    run.pages.flatMap(({ path, visits }) =>
      visits
        .filter(({ state }) => state === 'complete')
        .map((visit): [string, { page: string; visit: VisitRecord }] => [
          JSON.stringify([path, visit.screen]),
          { page: path, visit },
        ]),
    ),
  );

/** The visits that both saw whole and that changed, those that grew most first. */
function compareVisits(before: Readonly<Run>, after: Readonly<Run>, noise: Noise): ComparedVisit[] {
  const was = visitsOf(before);
  const changed = [...visitsOf(after)].flatMap(([key, { page, visit }]): ComparedVisit[] => {
    const then = was.get(key)?.visit;
    if (!then) return [];
    const compared = {
      page,
      screen: visit.screen,
      firstView: { before: then.firstView.bytes, after: visit.firstView.bytes },
      whole: { before: then.whole.bytes, after: visit.whole.bytes },
      shift: { before: then.shift.score, after: visit.shift.score },
    };
    const { firstView, whole, shift } = compared;
    const differs =
      [firstView, whole].some((pair) => Math.abs(growth(pair)) >= noise.bytes) ||
      Math.abs(growth(shift)) >= noise.shift;
    return differs ? [compared] : [];
  });
  return changed.sort((a, b) => growth(b.whole) - growth(a.whole) || (a.page < b.page ? -1 : 1));
}

function compareFindings(
  before: Readonly<Run>,
  after: Readonly<Run>,
  matched: ReadonlyMap<string, string>,
  noiseBytes: number,
): ByChange<ComparedFinding> {
  const open = new Map(before.findings.map((finding) => [`${finding.check} ${finding.placement}`, finding]));
  const [costBefore, costAfter] = [costIn(before), costIn(after)];
  const changes: ByChange<ComparedFinding> = { appeared: [], worse: [], better: [], went: [] };
  for (const finding of after.findings) {
    const key = `${finding.check} ${matched.get(finding.placement) ?? ''}`;
    const then = open.get(key);
    open.delete(key);
    const cost = { before: then ? costBefore(then) : 0, after: costAfter(finding) };
    const compared = comparedFinding(finding, cost);
    if (!then) changes.appeared.push(compared);
    else if (growth(cost) >= noiseBytes) changes.worse.push(compared);
    else if (growth(cost) <= -noiseBytes) changes.better.push(compared);
  }
  for (const finding of open.values())
    changes.went.push(comparedFinding(finding, { before: costBefore(finding), after: 0 }));
  for (const list of Object.values(changes) as ComparedFinding[][])
    list.sort((a, b) => Math.abs(growth(b.cost)) - Math.abs(growth(a.cost)));
  return changes;
}

const comparedFinding = ({ check, placement, says }: Finding, cost: Pair): ComparedFinding => ({
  check,
  placement,
  page: pageOf(placement),
  says,
  cost,
});

/** Bytes of an average visit of its page. */
function costIn({ screens }: Readonly<Run>): (finding: Finding) => number {
  const shares = new Map(screens.map(({ name, share }) => [name, share]));
  return ({ screens: seen }) =>
    Math.round(
      Object.entries(seen).reduce((sum, [name, { saves }]) => sum + (shares.get(name) ?? 0) * saves, 0),
    );
}

function notesOf(before: Readonly<Run>, after: Readonly<Run>): string[] {
  const notes: string[] = [];
  const described = ({ screens }: Readonly<Run>) =>
    JSON.stringify(
      screens.map(({ name, width, height, density, touch }) => [name, width, height, density, touch]),
    );
  if (described(before) !== described(after))
    notes.push('The two runs used different screens: only those of one name are compared.');
  for (const [name, run] of [
    ['earlier', before],
    ['later', after],
  ] as const)
    if (run.incomplete.length > 0)
      notes.push(`Of the ${name} run ${run.incomplete.length} visits or files could not be seen whole.`);
  if (before.meta.browser !== after.meta.browser)
    notes.push(`The browsers differ: ${before.meta.browser} and ${after.meta.browser}.`);
  if (before.meta.encoder !== after.meta.encoder)
    notes.push('The encoders differ, so prices may differ as well.');
  return notes;
}
