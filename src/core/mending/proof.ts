import { wasSeen } from '../bytes/visit-weights.js';
import { reachOfDownload } from '../plan/taken.js';
import type { Download, Fix, Placement, Run } from '../run/types.js';
import { promisedVisits, type PromisedDownload, type PromisedVisit } from './promise.js';

/** Kept means within this share, or within so many bytes. */
const tolerance = { share: 0.02, bytes: 2000 };

const isKept = (promised: number, achieved: number) =>
  Math.abs(promised - achieved) <= Math.max(tolerance.bytes, Math.abs(promised) * tolerance.share);

/** Expected bytes of an average visit that were to be saved and that are. */
export interface Proved {
  promised: number;
  achieved: number;
  kept: boolean;
  /** Why it is not kept. */
  reasons: string[];
}

export interface Proof {
  average: Proved;
  /** By screen: expected bytes of an average visit on it. */
  screens: Record<string, Proved>;
  /** By the fix's id. */
  fixes: Record<string, Proved>;
  findings: { went: number; stayed: number; appeared: FindingAt[] };
  /** Pages that look different: boxes that moved or changed size though no fix was to change them. */
  layout: { page: string; screen: string; says: string }[];
  /** Whether every promise is kept. */
  kept: boolean;
}

export interface FindingAt {
  check: string;
  page: string;
  says: string;
}

interface Visit {
  promised: PromisedVisit;
  downloads: readonly Download[];
  achieved: number;
}

/**
 * Holds what was promised against what an audit of the mended copy saw.
 * @param before the run that promised
 * @param after the run of the copy
 * @param fixes those that were made
 * @param unmade files that were made otherwise than promised, with the reason, by name
 */
export function prove(
  before: Readonly<Run>,
  after: Readonly<Run>,
  fixes: readonly Fix[],
  unmade: ReadonlyMap<string, string> = new Map(),
): Proof {
  const visits = visitsOf(before, after, fixes);
  const screens = Object.fromEntries(
    before.screens.map(({ name, share }) => {
      const own = visits.filter(({ promised }) => promised.screen === name);
      return [name, total(own, share > 0 ? 1 / share : 0)];
    }),
  );
  const byFix = Object.fromEntries(fixes.map((fix) => [fix.id, proveFix(fix, visits, unmade)]));
  const average = total(visits, 1);
  const layout = layoutChanges(before, after, fixes);
  const findings = compareFindings(before, after, fixes);
  const kept =
    average.kept &&
    layout.length === 0 &&
    [...Object.values(screens), ...Object.values(byFix)].every((each) => each.kept);
  return { average, screens, fixes: byFix, findings, layout, kept };
}

function visitsOf(before: Readonly<Run>, after: Readonly<Run>, fixes: readonly Fix[]): Visit[] {
  const { reach } = before.conditions;
  return promisedVisits(before, fixes, reach).map((promised) => {
    const screen = before.screens.find(({ name }) => name === promised.screen);
    const visit = after.pages
      .find(({ path }) => path === promised.page)
      ?.visits.find((each) => each.screen === promised.screen);
    const downloads = (visit?.downloads ?? []).filter(({ status }) => status < 400);
    const achieved = downloads.reduce(
      (sum, download) =>
        sum + Math.round(download.bytes * (screen ? reachOfDownload(download, screen, reach) : 0)),
      0,
    );
    return { promised, downloads, achieved };
  });
}

function total(visits: readonly Visit[], scale: number): Proved {
  const sum = (value: (visit: Visit) => number) =>
    Math.round(visits.reduce((all, visit) => all + visit.promised.weight * scale * value(visit), 0));
  const promised = sum(({ promised: own }) => own.before - own.after);
  const achieved = sum(({ promised: own, achieved: now }) => own.before - now);
  // What is left is held against what was to be left: a share of the savings would forgive much on heavy pages.
  const kept = isKept(
    sum(({ promised: own }) => own.after),
    sum(({ achieved: now }) => now),
  );
  return { promised, achieved, kept, reasons: [] };
}

/** What a fix's own files do: each that was promised is fetched, weighs what was said, and none that was to go is still there. */
function proveFix(fix: Fix, visits: readonly Visit[], unmade: ReadonlyMap<string, string>): Proved {
  const reasons = new Set<string>();
  let missed = 0;
  for (const { promised, downloads } of visits) {
    const own = fix.places.filter(({ page, source }) => page === promised.page && source !== null);
    if (own.length === 0) continue;
    const takes = own.flatMap((place) => place.takes[promised.screen] ?? []);
    const wanted = new Map(promised.downloads.map((download) => [download.url, download]));
    const actual = new Map(downloads.map((download) => [download.url, download]));
    const where = `${promised.page} on ${promised.screen}`;
    for (const url of new Set(takes.flatMap(({ after }) => after ?? []))) {
      const download = wanted.get(url);
      const found = actual.get(url);
      if (!download || download.reach === 0) continue;
      if (!found) reasons.add(`${url} was not fetched at ${where}${reasonOf(url, unmade)}`);
      else missed += promised.weight * weigh(download, found, where, reasons);
    }
    for (const url of new Set(takes.flatMap(({ before: was }) => was ?? []))) {
      const still = actual.get(url);
      if (!still || wanted.has(url)) continue;
      reasons.add(`${url} is still fetched at ${where}`);
      missed += promised.weight * still.bytes;
    }
  }
  const promised = fix.saves.expected;
  return {
    promised,
    achieved: Math.round(promised - missed),
    kept: reasons.size === 0,
    reasons: [...reasons].slice(0, mostReasons),
  };
}

const mostReasons = 5;

const reasonOf = (url: string, unmade: ReadonlyMap<string, string>) => {
  const why = unmade.get(url);
  return why === undefined ? '' : `: ${why}`;
};

function weigh(
  { url, bytes, reach }: PromisedDownload,
  found: Download,
  where: string,
  reasons: Set<string>,
): number {
  if (!isKept(bytes, found.bytes))
    reasons.add(`${url} weighs ${found.bytes} B instead of ${Math.round(bytes)} B at ${where}`);
  return (found.bytes - bytes) * reach;
}

/** Checks of which a fix changes boxes, because the box was the fault. */
const boxChecks: ReadonlySet<string> = new Set([
  'dimensions-of-another-ratio',
  'no-dimensions',
  'art-directed-without-dimensions',
  'stretched',
]);

/** Boxes may be so far off, CSS px. */
const sameBox = 1.5;

function layoutChanges(before: Readonly<Run>, after: Readonly<Run>, fixes: readonly Fix[]): Proof['layout'] {
  const excused = new Set(
    fixes.filter(({ checks }) => checks.some((check) => boxChecks.has(check))).flatMap(({ pages }) => pages),
  );
  const changes: Proof['layout'] = [];
  for (const { path, visits } of before.pages) {
    if (excused.has(path)) continue;
    for (const visit of visits) {
      const other = after.pages
        .find((page) => page.path === path)
        ?.visits.find(({ screen }) => screen === visit.screen);
      if (!wasSeen(visit)) continue;
      if (!other || !wasSeen(other))
        changes.push({ page: path, screen: visit.screen, says: 'it was not seen again' });
      else if (Math.abs(other.documentHeight - visit.documentHeight) > sameBox)
        changes.push({
          page: path,
          screen: visit.screen,
          says: `it is ${other.documentHeight} px high instead of ${visit.documentHeight}`,
        });
    }
  }
  return changes;
}

/** Findings are the same where check, page and place in the layout are: sources and addresses change when they are mended. */
function compareFindings(
  before: Readonly<Run>,
  after: Readonly<Run>,
  fixes: readonly Fix[],
): Proof['findings'] {
  const mended = new Set(fixes.flatMap(({ findings }) => findings));
  const old = countedKeys(before);
  const now = countedKeys(after);
  let [went, stayed] = [0, 0];
  before.findings.forEach((_, index) => {
    if (!mended.has(index)) return;
    if (now.keys.has(old.list[index] ?? '')) stayed++;
    else went++;
  });
  const appeared = after.findings.flatMap(({ check, placement, says }, index): FindingAt[] =>
    old.keys.has(now.list[index] ?? '') ? [] : [{ check, page: pageOf(placement), says }],
  );
  return { went, stayed, appeared };
}

/** Blur is told of a single file, and of a ladder when it has become one. */
const sameFault: Readonly<Record<string, string>> = { 'ladder-too-short': 'upscaled' };

const pageOf = (placement: string) => placement.slice(0, placement.lastIndexOf('#'));

function countedKeys({ findings, placements }: Readonly<Run>): { list: string[]; keys: Set<string> } {
  const byId = new Map(placements.map((placement) => [placement.id, placement]));
  const list = findings.map(
    ({ check, placement }) => `${sameFault[check] ?? check} ${keyOf(byId.get(placement))}`,
  );
  return { list, keys: new Set(list) };
}

function keyOf(placement: Placement | undefined): string {
  if (!placement) return '';
  const slots = Object.entries(placement.slots).map(([screen, slot]) => [
    screen,
    // What lies above may have got its room: only across do boxes stay where they are.
    slot && [slot.x, slot.width].map((side) => Math.round(side / 2)),
  ]);
  const kind = placement.kind === 'picture' ? 'img' : placement.kind;
  return JSON.stringify([placement.page, kind, placement.alt, slots]);
}
