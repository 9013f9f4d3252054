import type { ReachCurve } from '../layout/reach.js';
import { pageScreens, remainsOf, type Fetched, type PageScreen } from '../plan/page-ledger.js';
import { reachOfDownload } from '../plan/taken.js';
import type { FixPlace, Placement, Run, TakenFiles } from '../run/types.js';

/** A download that a mended page is promised to make on a screen. */
export interface PromisedDownload {
  url: string;
  bytes: number;
  reach: number;
}

/** What a page downloads on a screen once fixes are made, by what the run says. */
export interface PromisedVisit {
  page: string;
  screen: string;
  /** Share of all visits, 0 to 1. */
  weight: number;
  /** Expected bytes before and after. */
  before: number;
  after: number;
  downloads: PromisedDownload[];
}

type Moved = ReadonlyMap<string, Readonly<Record<string, TakenFiles>>>;

/** What each page downloads on each screen once some fixes are made: the distinct files that its placements take then. */
export function promisedVisits(
  run: Readonly<Run>,
  places: readonly FixPlace[],
  curve: ReachCurve,
): PromisedVisit[] {
  const moved: Moved = new Map(places.map(({ placement, takes }) => [placement, takes] as const));
  const sum = (page: PageScreen, how: Moved) =>
    remainsOf(page, (placement) => takenThen(placement, page, how, curve), curve).reduce(
      (total, { expected }) => total + expected,
      0,
    );
  return pageScreens(run).map((page) => ({
    page: page.page,
    screen: page.screen.name,
    weight: page.pageWeight * page.screen.share,
    before: sum(page, new Map()),
    after: sum(page, moved),
    downloads: distinct(page, moved, curve),
  }));
}

function distinct(page: PageScreen, moved: Moved, curve: ReachCurve): PromisedDownload[] {
  const files = new Map<string, PromisedDownload>();
  for (const { placement } of page.placements) {
    const taken = takenThen(placement, page, moved, curve);
    if (!taken) continue;
    const { url } = taken.file;
    const known = files.get(url);
    files.set(url, { url, bytes: taken.bytes, reach: Math.max(known?.reach ?? 0, taken.reach) });
  }
  return [...files.values()];
}

/** What a placement takes by the run: by a fix that is made, else what was seen. */
function takenThen(
  placement: Placement,
  { screen }: PageScreen,
  moved: Moved,
  curve: ReachCurve,
): Fetched | undefined {
  const then = moved.get(placement.id)?.[screen.name];
  const fileAt = (url: string) => ({ id: url, url, error: 0 });
  if (then) return then.after === null ? undefined : { ...then, file: fileAt(then.after) };
  const download = placement.downloads[screen.name];
  return (
    download && {
      file: fileAt(download.url),
      bytes: download.bytes,
      reach: reachOfDownload(download, screen, curve),
      inFirstView: download.began === 'first-view',
    }
  );
}
