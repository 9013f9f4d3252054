import { weightsOn } from '../bytes/visit-weights.js';
import { groupBy } from '../grouping.js';
import type { Download, Placement, Screen } from '../run/types.js';
import type { PlanInput } from './plan.js';
import { reachOfDownload, type Taken } from './taken.js';

/** What is left of one download, in whole bytes. */
export interface Remains {
  /** Of the transfers that show what the download shows. */
  whole: number;
  /** The part of it that begins in the first view. */
  firstView: number;
  /** By the share of visits that cause each transfer. */
  expected: number;
  /** How far that may be off either way, where files are estimated. */
  unsure: number;
}

/** The downloads of one page on one screen, and the placements that show them. */
export interface PageScreen {
  page: string;
  screen: Screen;
  /** The page's share of visits. */
  pageWeight: number;
  downloads: readonly Download[];
  /** Those that download something here, in document order, each with the position of its download. */
  placements: readonly { placement: Placement; download: number }[];
  /** Positions of the downloads that no placement shows. */
  others: readonly number[];
}

/** What of a file that is taken decides about bytes. */
export interface Fetched extends Pick<Taken, 'bytes' | 'reach' | 'inFirstView'> {
  file: Pick<Taken['file'], 'id' | 'url' | 'error'>;
}

export type TakenOf = (placement: Placement, screen: string) => Fetched | undefined;

/** Every page on every screen, with what it downloads. */
export function pageScreens({
  pages,
  screens,
  placements,
}: Pick<PlanInput, 'pages' | 'screens' | 'placements'>): PageScreen[] {
  const byPage = groupBy(placements, ({ page }) => page);
  const weights = new Map(screens.map(({ name }) => [name, weightsOn(pages, name)]));
  return pages.flatMap(({ path, visits }) =>
    visits.flatMap(({ screen: name, downloads }) => {
      const screen = screens.find((each) => each.name === name);
      const weight = weights.get(name)?.get(path) ?? 0;
      const delivered = downloads.filter(({ status }) => status < 400);
      return screen ? [onePage(path, screen, weight, delivered, byPage.get(path) ?? [])] : [];
    }),
  );
}

function onePage(
  page: string,
  screen: Screen,
  pageWeight: number,
  downloads: readonly Download[],
  placements: readonly Placement[],
): PageScreen {
  const positions = new Map<string, number>();
  // Of a file that is fetched twice the first transfer is the one that the placements show.
  downloads.forEach(({ url }, index) => {
    if (!positions.has(url)) positions.set(url, index);
  });
  const shown = placements.flatMap((placement) => {
    const download = positions.get(placement.downloads[screen.name]?.url ?? '');
    return download === undefined ? [] : [{ placement, download }];
  });
  const used = new Set(shown.map(({ download }) => download));
  const others = downloads.flatMap((_, index) => (used.has(index) ? [] : [index]));
  return { page, screen, pageWeight, downloads, placements: shown, others };
}

interface Transfer {
  bytes: number;
  /** Share by which the bytes may be off. */
  error: number;
  reach: number;
  inFirstView: boolean;
  owner: number;
}

/**
 * What each download of a page leaves when placements take what they are told to: the distinct transfers, each with the download that it
 * stands for. A file that two placements take is one transfer, and goes away only when neither takes it.
 * @returns in the order of the downloads
 */
export function remainsOf(
  { downloads, placements, others, screen }: PageScreen,
  takenOf: TakenOf,
  curve: PlanInput['reach'],
): Remains[] {
  const transfers = new Map<string, Transfer>();
  const positions = new Map<string, number>();
  for (const { download } of placements) positions.set(downloads[download]?.url ?? '', download);
  const add = (key: string, transfer: Transfer) => {
    const known = transfers.get(key);
    if (!known) transfers.set(key, transfer);
    else {
      known.reach = Math.max(known.reach, transfer.reach);
      known.inFirstView ||= transfer.inFirstView;
    }
  };
  for (const { placement, download } of placements) {
    const taken = takenOf(placement, screen.name);
    if (!taken) continue;
    const { file, bytes, reach, inFirstView } = taken;
    add(`${file.url} ${file.id}`, {
      bytes,
      error: file.error,
      reach,
      inFirstView,
      owner: positions.get(file.url) ?? download,
    });
  }
  for (const index of others) {
    const own = downloads[index];
    if (!own) continue;
    const reach = reachOfDownload(own, screen, curve);
    add(`other ${index}`, {
      bytes: own.bytes,
      error: 0,
      reach,
      inFirstView: own.began === 'first-view',
      owner: index,
    });
  }
  const remains = downloads.map((): Remains => ({ whole: 0, firstView: 0, expected: 0, unsure: 0 }));
  for (const { bytes, error, reach, inFirstView, owner } of transfers.values()) {
    const left = remains[owner];
    if (!left) continue;
    left.whole += Math.round(bytes);
    left.firstView += inFirstView ? Math.round(bytes) : 0;
    left.expected += Math.round(bytes * reach);
    left.unsure += bytes * reach * error;
  }
  return remains;
}

export const noBytes: Remains = { whole: 0, firstView: 0, expected: 0, unsure: 0 };

export function sumOf(remains: readonly Remains[]): Remains {
  return remains.reduce(
    (sum, each) => ({
      whole: sum.whole + each.whole,
      firstView: sum.firstView + each.firstView,
      expected: sum.expected + each.expected,
      unsure: sum.unsure + each.unsure,
    }),
    noBytes,
  );
}
