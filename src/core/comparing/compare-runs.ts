import { defaultTrifles } from '../bytes/trifles.js';
import type { Finding, Fix, Run, ScreenTotals, VisitRecord } from '../run/types.js';
import { matchPlacements } from './match-placements.js';

/** One number in both runs. */
export interface Pair {
  before: number;
  after: number;
}

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

export interface ComparedFix {
  id: string;
  title: string;
  /** Expected bytes of an average visit that it saves. */
  saves: Pair;
}

/** A file that a page downloads, on any screen; null where it does not. */
export interface ComparedDownload {
  page: string;
  /** Address in the later run, or in the earlier one where it went. */
  url: string;
  /** The earlier address of the same content. */
  renamedFrom: string | null;
  bytes: { before: number | null; after: number | null };
}

export interface ByChange<Item> {
  appeared: Item[];
  worse: Item[];
  better: Item[];
  went: Item[];
}

/** What is different between two runs. What did not change by more than a trifle is left out. */
export interface RunComparison {
  totals: ComparedTotals[];
  pages: { appeared: string[]; went: string[]; visits: ComparedVisit[] };
  findings: ByChange<ComparedFinding>;
  fixes: ByChange<ComparedFix>;
  downloads: ComparedDownload[];
  /** Said where the two cannot be compared whole. */
  notes: string[];
}

export interface CompareOptions {
  /** Smaller changes are noise, bytes. */
  noiseBytes?: number;
  /** … and layout shifts that differ by less. */
  noiseShift?: number;
}

/** Layout shifts are told to the hundredth. */
const usualNoiseShift = 0.01;

/** Compares two runs of a site: what got better, worse, appeared and went. */
export function compareRuns(
  before: Readonly<Run>,
  after: Readonly<Run>,
  { noiseBytes = defaultTrifles.trifleBytes, noiseShift = usualNoiseShift }: CompareOptions = {},
): RunComparison {
  const paths = (run: Readonly<Run>) => new Set(run.pages.map(({ path }) => path));
  const [was, is] = [paths(before), paths(after)];
  return {
    totals: compareTotals(before, after),
    pages: {
      appeared: [...is].filter((path) => !was.has(path)),
      went: [...was].filter((path) => !is.has(path)),
      visits: compareVisits(before, after, noiseBytes, noiseShift),
    },
    findings: compareFindings(before, after, noiseBytes),
    fixes: compareFixes(before, after, noiseBytes),
    downloads: compareDownloads(before, after, was, is),
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
function compareVisits(
  before: Readonly<Run>,
  after: Readonly<Run>,
  noiseBytes: number,
  noiseShift: number,
): ComparedVisit[] {
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
      [firstView, whole].some((pair) => Math.abs(growth(pair)) >= noiseBytes) ||
      Math.abs(growth(shift)) >= noiseShift;
    return differs ? [compared] : [];
  });
  return changed.sort((a, b) => growth(b.whole) - growth(a.whole) || (a.page < b.page ? -1 : 1));
}

export const growth = ({ before, after }: Pair) => after - before;

function compareFindings(
  before: Readonly<Run>,
  after: Readonly<Run>,
  noiseBytes: number,
): ByChange<ComparedFinding> {
  const matched = matchPlacements(before, after);
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
  page: placement.slice(0, placement.lastIndexOf('#')),
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

/** Fixes have the same name where they edit the same texts; one of another name is the same where most of its places are. */
function compareFixes(
  before: Readonly<Run>,
  after: Readonly<Run>,
  noiseBytes: number,
): ByChange<ComparedFix> {
  const matched = matchPlacements(before, after);
  const open = new Map(before.fixes.map((fix) => [fix.id, fix]));
  const kept = new Set(after.fixes.map(({ id }) => id));
  const byPlacement = new Map<string, Fix[]>();
  for (const fix of before.fixes)
    if (!kept.has(fix.id))
      for (const { placement } of fix.places)
        byPlacement.set(placement, [...(byPlacement.get(placement) ?? []), fix]);
  const sameAs = (fix: Fix): Fix | undefined => {
    const own = open.get(fix.id);
    if (own) return own;
    const votes = new Map<Fix, number>();
    for (const { placement } of fix.places)
      for (const then of byPlacement.get(matched.get(placement) ?? '') ?? [])
        if (open.has(then.id) && then.checks.some((check) => fix.checks.includes(check)))
          votes.set(then, (votes.get(then) ?? 0) + 1);
    const [best] = [...votes].sort(([, a], [, b]) => b - a);
    return best && best[1] * 2 > fix.places.length ? best[0] : undefined;
  };
  const changes: ByChange<ComparedFix> = { appeared: [], worse: [], better: [], went: [] };
  for (const fix of after.fixes) {
    const then = sameAs(fix);
    if (then) open.delete(then.id);
    const saves = { before: then?.saves.expected ?? 0, after: fix.saves.expected };
    const compared = { id: fix.id, title: fix.title, saves };
    if (!then) changes.appeared.push(compared);
    else if (growth(saves) >= noiseBytes) changes.worse.push(compared);
    else if (growth(saves) <= -noiseBytes) changes.better.push(compared);
  }
  for (const { id, title, saves } of open.values())
    changes.went.push({ id, title, saves: { before: saves.expected, after: 0 } });
  return changes;
}

/** Files of pages that both have: those that came, went or changed, most bytes first. A new name for the same content is no change of bytes. */
function compareDownloads(
  before: Readonly<Run>,
  after: Readonly<Run>,
  was: ReadonlySet<string>,
  is: ReadonlySet<string>,
): ComparedDownload[] {
  const hashesBefore = new Map(before.files.map(({ url, hash }) => [url, hash]));
  const hashesAfter = new Map(after.files.map(({ url, hash }) => [url, hash]));
  const [older, newer] = [downloadsIn(before), downloadsIn(after)];
  const changes: ComparedDownload[] = [];
  for (const page of is) {
    if (!was.has(page)) continue;
    const [then, now] = [new Map(older.get(page)), newer.get(page) ?? new Map<string, number>()];
    for (const [url, bytes] of now) {
      const hash = hashesAfter.get(url) ?? '';
      const same = then.has(url)
        ? url
        : [...then.keys()].find((each) => hash !== '' && hashesBefore.get(each) === hash && !now.has(each));
      const earlier = same === undefined ? null : (then.get(same) ?? null);
      if (same !== undefined) then.delete(same);
      const renamedFrom = same !== undefined && same !== url ? same : null;
      if (earlier !== bytes || renamedFrom !== null)
        changes.push({ page, url, renamedFrom, bytes: { before: earlier, after: bytes } });
    }
    for (const [url, bytes] of then)
      changes.push({ page, url, renamedFrom: null, bytes: { before: bytes, after: null } });
  }
  const size = ({ bytes }: ComparedDownload) => Math.abs((bytes.after ?? 0) - (bytes.before ?? 0));
  return changes.sort((a, b) => size(b) - size(a) || (a.page + a.url < b.page + b.url ? -1 : 1));
}

/** Bytes by address, by page; of several screens the largest transfer. */
function downloadsIn({ pages }: Readonly<Run>): Map<string, Map<string, number>> {
  return new Map(
    pages.map(({ path, visits }) => {
      const own = new Map<string, number>();
      for (const { downloads } of visits)
        for (const { url, bytes } of downloads) own.set(url, Math.max(own.get(url) ?? 0, bytes));
      return [path, own];
    }),
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
