import type { Screen, WithoutScript } from '../../core/run/index.js';
import type { Page } from '../../site/index.js';
import type { PageLooks } from '../page-looks.js';
import type { VisitSummary } from '../visit-summary.js';
import type { PageFile } from './page-file.js';
import { NotReadable, sampleOf, type FileKnowledge } from './samples.js';
import { ScreenReader } from './screen-reader.js';

/** From fewer pages nothing is learnt. */
const fewestSeen = 10;

/** A page of a template that was visited on all screens. */
export interface SeenPage {
  file: PageFile;
  looks: PageLooks;
}

/** A page of a template that was visited on one screen. */
export interface LookedPage {
  page: Page;
  file: PageFile;
  visits: PageLooks['visits'];
}

/** What could be read of a page on one screen: what a visit would see, or why only a visit can tell. */
export type ReadLook =
  | { screen: Screen; summary: VisitSummary; why?: undefined }
  | { screen: Screen; summary?: undefined; why: string };

/** Reads what visits of a page would see, by what visits of other pages of its template saw. */
export class TemplateReader {
  readonly #readers: readonly { screen: Screen; reader: ScreenReader | string }[];
  readonly #scriptless: 'none' | 'the same';

  /**
   * @param unread why pages are not read on these screens, by name
   * @throws {NotReadable} when pages of the template cannot be read on any screen
   */
  constructor(
    seen: readonly SeenPage[],
    screens: readonly Screen[],
    readonly files: FileKnowledge,
    unread: ReadonlyMap<string, string> = new Map(),
  ) {
    if (seen.length < fewestSeen) throw new NotReadable('too few of its pages were seen whole');
    this.#readers = screens.map((screen, index) => {
      const looks = seen.flatMap(({ file, looks: { visits } }) => {
        const summary = visits[index]?.summary;
        return summary ? [{ page: file, summary }] : [];
      });
      const reader = unread.get(screen.name) ?? readOr(() => new ScreenReader(screen, looks, files));
      return { screen, reader };
    });
    const reasons = this.#readers.map(({ reader }) => reader);
    if (reasons.every((each) => typeof each === 'string')) throw new NotReadable(reasons[0]);
    this.#scriptless = scriptlessOf(seen);
  }

  /** @param on the screens to read, all if left out */
  read(file: PageFile, on?: readonly Screen[]): ReadLook[] {
    const asked = on ? this.#readers.filter(({ screen }) => on.includes(screen)) : this.#readers;
    return asked.map(({ screen, reader }) => {
      const summary = typeof reader === 'string' ? reader : readOr(() => reader.read(file));
      return typeof summary === 'string' ? { screen, why: summary } : { screen, summary };
    });
  }

  /**
   * What visits saw of a page on some screens, with what is read of the others.
   * @returns undefined where what was seen is not what the page's file says
   */
  joined(file: PageFile, seen: PageLooks['visits']): PageLooks['visits'] | undefined {
    const asWritten = ({ screen, summary }: PageLooks['visits'][number]) =>
      summary.visit.state === 'unseen' ||
      typeof readOr(() => sampleOf({ page: file, summary }, screen, this.files)) !== 'string';
    if (!seen.every(asWritten)) return undefined;
    const visits = this.read(file).flatMap(({ screen, summary }) => {
      const own = seen.find((each) => each.screen === screen)?.summary ?? summary;
      return own ? [{ screen, summary: own }] : [];
    });
    return visits.length === this.#readers.length ? visits : undefined;
  }

  /** The looks at a page on all screens, with what it shows without script. */
  whole(visits: PageLooks['visits']): PageLooks {
    // Of a screen on which a visit failed nothing is known, so not either that nothing was shown.
    const known = visits.filter(({ summary }) => summary.visit.state !== 'unseen');
    const seen = this.#scriptless === 'none' ? null : { urls: urlsOf(mainOf(known)) };
    return { visits, withoutScript: { seen, incomplete: [] } };
  }
}

/** What is read, or why it cannot be. */
function readOr<Value>(read: () => Value): Value | string {
  try {
    return read();
  } catch (cause) {
    if (cause instanceof NotReadable) return cause.message;
    throw cause;
  }
}

/** Whether a page can be learnt from: seen whole, and what it takes is sound. */
export function isSound({ looks: { visits, withoutScript } }: SeenPage, files: FileKnowledge): boolean {
  const own = (url: string) => {
    const file = files.fileOf(url);
    return !url.startsWith('/') || (file !== undefined && file.problem === undefined);
  };
  return (
    withoutScript.incomplete.length === 0 &&
    visits.every(
      ({ summary: { visit, incomplete } }) =>
        visit.state === 'complete' &&
        incomplete.length === 0 &&
        visit.downloads.every(
          ({ url, status, failure }) => status < 400 && failure === undefined && own(url),
        ),
    )
  );
}

/** Without script the pages show nothing else, or have none: anything between cannot be read. */
function scriptlessOf(seen: readonly SeenPage[]): 'none' | 'the same' {
  const all = seen.map(({ looks: { visits, withoutScript } }) => ({
    own: withoutScript.seen,
    urls: urlsOf(mainOf(visits)),
  }));
  if (all.every(({ own }) => own === null)) return 'none';
  const isSame = ({ own, urls }: { own: WithoutScript | null; urls: readonly string[] }) =>
    own !== null && own.urls.join('\n') === urls.join('\n');
  if (all.every(isSame)) return 'the same';
  throw new NotReadable('its pages show other images without script');
}

const mainOf = (visits: PageLooks['visits']): VisitSummary | undefined =>
  [...visits].sort((a, b) => b.screen.share - a.screen.share)[0]?.summary;

const urlsOf = (summary: VisitSummary | undefined): string[] =>
  [...new Set(summary?.visit.downloads.map(({ url }) => url))].sort();
