import type { ReachCurve } from '../layout/reach.js';
import { pageScreens, remainsOf, type PageScreen } from '../plan/page-ledger.js';
import { reachOfDownload, type Taken } from '../plan/taken.js';
import type { Fix, Placement, Run, TakenFiles } from '../run/types.js';

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
  fixes: readonly Fix[],
  curve: ReachCurve,
): PromisedVisit[] {
  const moved: Moved = new Map(
    fixes.flatMap(({ places }) =>
      places
        .filter(({ source }) => source !== null)
        .map(({ placement, takes }) => [placement, takes] as const),
    ),
  );
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
): Taken | undefined {
  const download = placement.downloads[screen.name];
  const then = moved.get(placement.id)?.[screen.name];
  const url = then ? then.after : download?.url;
  if (url === undefined || url === null) return undefined;
  const bytes = then ? then.bytes : (download?.bytes ?? 0);
  return {
    file: {
      id: url,
      url,
      master: url,
      recipe: 'as-is',
      format: '',
      width: 0,
      height: 0,
      bytes,
      error: 0,
      quality: null,
      animated: false,
    },
    source: 0,
    density: 1,
    dimensions: undefined,
    claim: undefined,
    bytes,
    reach: then ? then.reach : download ? reachOfDownload(download, screen, curve) : 0,
    inFirstView: then ? then.inFirstView : download?.began === 'first-view',
  };
}
