import type { Screen, WithoutScript } from '../../core/run/index.js';
import type { PageLooks } from '../page-looks.js';
import type { VisitSummary } from '../visit-summary.js';
import type { PageFile } from './page-file.js';
import { NotReadable, type FileKnowledge } from './samples.js';
import { ScreenReader } from './screen-reader.js';

/** From fewer pages nothing is learnt. */
const fewestSeen = 10;

/** A page of a template that was visited on all screens. */
export interface SeenPage {
  file: PageFile;
  looks: PageLooks;
}

/** Reads what visits of a page would see, by what visits of other pages of its template saw. */
export class TemplateReader {
  readonly #readers: readonly ScreenReader[];
  readonly #scriptless: 'none' | 'the same';

  /** @throws {NotReadable} when pages of the template cannot be read */
  constructor(
    seen: readonly SeenPage[],
    readonly screens: readonly Screen[],
    files: FileKnowledge,
  ) {
    if (seen.length < fewestSeen) throw new NotReadable('too few of its pages were seen whole');
    this.#readers = screens.map((screen, index) => {
      const looks = seen.flatMap(({ file, looks: { visits } }) => {
        const summary = visits[index]?.summary;
        return summary ? [{ page: file, summary }] : [];
      });
      return new ScreenReader(screen, looks, files);
    });
    this.#scriptless = scriptlessOf(seen);
  }

  /** @throws {NotReadable} when only a visit can tell */
  read(file: PageFile): PageLooks {
    const visits = this.#readers.map((reader) => ({ screen: reader.screen, summary: reader.read(file) }));
    const seen = this.#scriptless === 'none' ? null : { urls: urlsOf(mainOf(visits)) };
    return { visits, withoutScript: { seen, incomplete: [] } };
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
