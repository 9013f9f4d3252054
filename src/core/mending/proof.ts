import { groupBy } from '../grouping.js';
import type { ReachCurve } from '../layout/reach.js';
import { pageScreens } from '../plan/page-ledger.js';
import { reachOfDownload } from '../plan/taken.js';
import type { Download, Fix, FixPlace, Run } from '../run/types.js';
import type { ComparedLayouts } from './box-changes.js';
import { changedPlaces } from './changed-places.js';
import { compareFindings, type ComparedFindings } from './compare-findings.js';
import { heightChanges, pagesOf, type LayoutChange } from './layout-changes.js';
import { promisedVisits } from './promise.js';
import { isNear, total, type Kept, type LaterImage, type Proved, type ProvedVisit } from './proved-total.js';

export interface Proof {
  average: Proved;
  /** By screen: expected bytes of an average visit on it. */
  screens: Record<string, Proved>;
  /** By the fix's id. */
  fixes: Record<string, Proved>;
  findings: ComparedFindings;
  layout: {
    /** Boxes that moved or changed size though no fix was to change them. */
    changes: LayoutChange[];
    /** How many pages were compared element by element, and at how many widths. */
    pages: number;
    widths: number;
    problems: { page: string; why: string }[];
  };
  /** Visits that one of the two audits did not see whole: nothing is proved or refuted by them. */
  unseen: { page: string; screen: string; why: string }[];
  /** Images that did load before and do not now. */
  lost: { page: string; screen: string; url: string }[];
  /**
   * Images that are fetched later than was promised: once room is kept for those above, a script or the browser finds them farther away; or
   * not at all, since they wait for being near and their slide had moved on by then. What that saves, expected bytes of a visit, comes beside
   * what was promised, and breaks no promise.
   */
  later: LaterImage[];
  /** Whether every promise is kept. */
  kept: boolean;
}

/** What was done to the copy. */
export interface Made {
  fixes: readonly Fix[];
  /** What a comparison of their pages saw. */
  layouts: ComparedLayouts;
  /** Files that could not be made, with the reason, by name. */
  unmade: ReadonlyMap<string, string>;
  /** Whether files may weigh less than was promised. */
  lighterIsKept: boolean;
}

/**
 * Holds what was promised against what an audit of the mended copy saw.
 * @param before the run that promised
 * @param after the run of the copy
 */
export function prove(
  before: Readonly<Run>,
  after: Readonly<Run>,
  { fixes, layouts, unmade, lighterIsKept }: Made,
): Proof {
  const isKept: Kept = (promised, achieved) =>
    (lighterIsKept && achieved < promised) || isNear(promised, achieved);
  const unseen = notSeenWhole(before, after);
  const isUnseen = (page: string, screen: string) =>
    unseen.some((each) => each.page === page && each.screen === screen);
  const changed = changedPlaces(before, fixes);
  const visits = visitsOf(before, after, [...changed.values()].flat()).filter(
    ({ promised }) => !isUnseen(promised.page, promised.screen),
  );
  const screens = Object.fromEntries(
    before.screens.map(({ name, share }) => {
      const own = visits.filter(({ promised }) => promised.screen === name);
      return [name, total(own, share > 0 ? 1 / share : 0, isKept)];
    }),
  );
  const byFix = Object.fromEntries(
    [...changed].map(([fix, places]) => [fix.id, proveFix(fix, places, visits, unmade, isKept)]),
  );
  const average = total(visits, 1, isKept);
  const changes = [
    ...heightChanges(before, after, pagesOf(fixes)).filter(({ page, where }) => !isUnseen(page, where)),
    ...layouts.changes.map(({ page, viewport, element, says }) => ({
      page,
      where: `${viewport} px`,
      says: `${element}: ${says}`,
    })),
  ];
  const layout = { ...layouts, changes };
  const lost = lostImages(before, after);
  const findings = compareFindings(before, after, fixes);
  const kept =
    average.kept &&
    changes.length === 0 &&
    lost.length === 0 &&
    [...Object.values(screens), ...Object.values(byFix)].every((each) => each.kept);
  const later = visits.flatMap((visit) => visit.later);
  return { average, screens, fixes: byFix, findings, layout, unseen, lost, later, kept };
}

function visitsOf(before: Readonly<Run>, after: Readonly<Run>, places: readonly FixPlace[]): ProvedVisit[] {
  const { reach } = before.conditions;
  const [unshownBefore, unshownAfter] = [unshownIn(before, reach), unshownIn(after, reach)];
  const [seenBefore, seenAfter] = [visitsIn(before), visitsIn(after)];
  const lazy = groupBy(
    after.placements.filter(({ shown }) => Object.values(shown).some((image) => image.lazy)),
    ({ page }) => page,
  );
  return promisedVisits(before, places, reach).map((promised) => {
    const screen = before.screens.find(({ name }) => name === promised.screen);
    const key = visitKey(promised.page, promised.screen);
    const visit = seenAfter.get(key);
    const downloads = (visit?.downloads ?? []).filter(
      (download) => download.status < 400 && !wasTakenBack(download),
    );
    const reachNow = (download: Download) => (screen ? reachOfDownload(download, screen, reach) : 0);
    const achieved = downloads.reduce(
      (sum, download) => sum + Math.round(download.bytes * reachNow(download)),
      0,
    );
    const wanted = new Map(promised.downloads.map((each) => [each.url, each.reach]));
    const waiting = new Set(
      (lazy.get(promised.page) ?? []).flatMap(({ shown, candidates }) =>
        shown[promised.screen]?.state === 'not-loaded' ? candidates : [],
      ),
    );
    const asleep = new Set([...waiting].filter((url) => downloads.every((each) => each.url !== url)));
    const late = downloads.map((download) => {
      const lessOften = (wanted.get(download.url) ?? 0) - reachNow(download);
      return { url: download.url, bytes: Math.round(download.bytes * lessOften) };
    });
    const never = promised.downloads
      .filter(({ url }) => asleep.has(url))
      .map((download) => ({ url: download.url, bytes: Math.round(download.bytes * download.reach) }));
    const later = [...late, ...never]
      .filter(({ bytes }) => bytes > 0)
      .map((each) => ({ page: promised.page, screen: promised.screen, ...each }));
    const earlier = new Map(
      seenBefore.get(key)?.downloads.map((each) => [each.url, each.bytes * reachNow(each)]),
    );
    const unshown = (unshownBefore.get(key) ?? 0) - (unshownAfter.get(key) ?? 0);
    return {
      promised,
      downloads: downloads.map((download) => ({ ...download, reach: reachNow(download) })),
      earlier,
      achieved,
      later,
      asleep,
      unshown: Math.max(0, unshown),
    };
  });
}

/** The visits of a run by page and screen. */
const visitsIn = ({ pages }: Readonly<Run>) =>
  new Map(
    pages.flatMap(({ path, visits }) =>
      visits.map((visit) => [visitKey(path, visit.screen), visit] as const),
    ),
  );

const visitKey = (page: string, screen: string) => JSON.stringify([page, screen]);

/** Expected bytes of downloads that no element shows, by page and screen. */
const unshownIn = (run: Readonly<Run>, reach: ReachCurve) =>
  new Map(
    pageScreens(run).map(({ page, screen, downloads, others }) => {
      const unshown = downloads.filter((_, index) => others.includes(index));
      const bytes = unshown.map((each) => each.bytes * reachOfDownload(each, screen, reach));
      return [visitKey(page, screen.name), bytes.reduce((sum, each) => sum + each, 0)] as const;
    }),
  );

/** What a fix's own files do: each that was promised is fetched, weighs what was said, and none that was to go is still there. */
function proveFix(
  fix: Fix,
  places: readonly FixPlace[],
  visits: readonly ProvedVisit[],
  unmade: ReadonlyMap<string, string>,
  isKept: Kept,
): Proved {
  const reasons = new Set<string>();
  let missed = 0;
  for (const { promised, downloads, asleep } of visits) {
    const own = places.filter(({ page }) => page === promised.page);
    if (own.length === 0) continue;
    const takes = own.flatMap((place) => place.takes[promised.screen] ?? []);
    const wanted = new Map(promised.downloads.map((download) => [download.url, download]));
    // What is asked for once more, by a frame for example, comes from memory and weighs nothing: the heaviest answer stands last.
    const byWeight = [...downloads].sort((a, b) => a.bytes - b.bytes);
    const actual = new Map(byWeight.map((download) => [download.url, download]));
    const where = `${promised.page} on ${promised.screen}`;
    for (const url of new Set(takes.flatMap(({ after }) => after ?? []))) {
      const download = wanted.get(url);
      const found = actual.get(url);
      if (!download || download.reach === 0 || asleep.has(url)) continue;
      if (!found) reasons.add(`${url} was not fetched at ${where}${reasonOf(url, unmade)}`);
      else {
        if (!isKept(download.bytes, found.bytes))
          reasons.add(
            `${url} weighs ${found.bytes} B instead of ${Math.round(download.bytes)} B at ${where}`,
          );
        missed += promised.weight * (found.bytes - download.bytes) * download.reach;
      }
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

/** A request that the browser itself takes back: the box of a lazy image whose `sizes` is auto changed, so another file is asked for. */
const wasTakenBack = ({ failure }: Download) => failure === 'cancelled';

/** Images that failed in the copy and did not in the site. */
function lostImages(before: Readonly<Run>, after: Readonly<Run>): Proof['lost'] {
  const failed = (run: Readonly<Run>) =>
    run.pages.flatMap(({ path, visits }) =>
      visits.flatMap(({ screen, downloads }) =>
        downloads
          .filter(
            (download) =>
              download.status >= 400 || (download.failure !== undefined && !wasTakenBack(download)),
          )
          .map(({ url }) => ({ page: path, screen, url })),
      ),
    );
  const known = new Set(failed(before).map((each) => JSON.stringify(each)));
  return failed(after).filter((each) => !known.has(JSON.stringify(each)));
}

function notSeenWhole(before: Readonly<Run>, after: Readonly<Run>): Proof['unseen'] {
  const whys = [...before.incomplete, ...after.incomplete];
  const states = (run: Readonly<Run>) =>
    run.pages.flatMap(({ path, visits }) =>
      visits.map(({ screen, state }) => ({ page: path, screen, state })),
    );
  const cut = [...states(before), ...states(after)].filter(
    ({ state }) => state === 'partial' || state === 'unseen',
  );
  return [...new Map(cut.map(({ page, screen }) => [`${page} ${screen}`, { page, screen }])).values()].map(
    ({ page, screen }) => ({
      page,
      screen,
      why: whys.find((each) => each.page === page && each.screen === screen)?.why ?? 'it was not seen whole',
    }),
  );
}
