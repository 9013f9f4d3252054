import pLimit from 'p-limit';
import { Browser, visit, type BrowserOptions, type Preparation } from '../browser/index.js';
import type { Fix, FixDetail, ImageFile, PageViews, ReportPictures, Run, Screen } from '../core/run/index.js';
import { causeInWords } from '../core/wording/words.js';
import { compareDetail, makeFile, viewPicture, type PictureSize } from '../images/index.js';
import type { Site } from '../site/index.js';
import type { Progress } from './context.js';
import { pickOf } from './pick-of.js';
import { accessTo, reachTo } from './access.js';
import { SiteUrls } from './site-urls.js';

export interface ReportPicturesOptions {
  browser?: BrowserOptions;
  pageLimitMs: number;
  atOnce: number;
  allowOtherHosts: boolean;
  prepare?: Preparation;
  interrupted?: AbortSignal;
  size: PictureSize;
}

/** Where room is short: the pages and the fixes that save most. */
const most = { small: { pages: 16, details: 20 }, full: { pages: Infinity, details: Infinity } };

/**
 * Takes the pictures that a report of a run shows: each page's first view while its images are awaited and with them, and for each fix
 * what a visitor sees of the delivered file and of the lighter one. What cannot be shown is noted.
 * @param site the one that the run is of
 * @throws {BrowserError} when no browser can be started
 */
export async function takeReportPictures(
  site: Site,
  run: Readonly<Run>,
  options: ReportPicturesOptions,
  progress: Progress,
): Promise<ReportPictures> {
  const notes: string[] = [];
  const views = await takeViews(site, run, options, progress, notes);
  const details = await compareFixes(site, run, options, progress, notes);
  return { views, details, notes: notes.sort() };
}

/** Width at which the report shows a screen, CSS px: wide windows in half of its text's width, phones as high as these. */
const shownWidth = ({ width, height }: Screen) => (width > height ? 330 : 170);

async function takeViews(
  site: Site,
  run: Readonly<Run>,
  options: ReportPicturesOptions,
  progress: Progress,
  notes: string[],
): Promise<PageViews[]> {
  const pages = pagesByWorth(run).slice(0, most[options.size].pages);
  if (pages.length < run.pages.length)
    notes.push(
      `Views are shown of the ${pages.length} pages with most to save; --pictures full shows all ${run.pages.length}.`,
    );
  const urls = new SiteUrls(site.origin);
  const browser = await Browser.open(options.browser, reachTo([site], options));
  const inBrowser = pLimit(options.atOnce);
  const sizes = new Map(
    run.files.flatMap(({ url, width, height }) => (width > 0 ? [[url, { width, height }] as const] : [])),
  );
  progress.begin('views', pages.length * run.screens.length);
  const look = async (page: string, screen: Screen): Promise<PageViews[]> => {
    if (options.interrupted?.aborted) return [];
    const { heldView, loadedView } = await visit(browser, {
      url: site.origin + page,
      screen,
      limitMs: options.pageLimitMs,
      viewsOnly: true,
      ...accessTo(site, options),
      sizeOf: (address) => Promise.resolve(sizes.get(urls.shorten(address))),
      pickOf: (element, baseUrl, viewport) => pickOf(element, baseUrl, { ...screen, ...viewport }),
    });
    if (!heldView || !loadedView) throw new Error('the page did not settle');
    const width = shownWidth(screen);
    const [held, loaded] = await Promise.all(
      [heldView, loadedView].map((png) => viewPicture(png, width, options.size)),
    );
    return held && loaded ? [{ page, screen: screen.name, held, loaded }] : [];
  };
  const wanted = pages.flatMap((page) => run.screens.map((screen) => ({ page, screen })));
  try {
    const taken = await Promise.all(
      wanted.map(({ page, screen }) =>
        inBrowser(() => look(page, screen))
          .catch((cause: unknown) => {
            notes.push(`No view of ${page} on ${screen.name}: ${causeInWords(cause)}.`);
            return [];
          })
          .finally(() => progress.step(page)),
      ),
    );
    return taken.flat();
  } finally {
    await browser.close();
  }
}

/** Those of which most bytes are saved first, then those that jump most; what leads elsewhere shows nothing. */
function pagesByWorth(run: Readonly<Run>): string[] {
  const saved = new Map<string, number>();
  for (const { page, expected, expectedRemains } of run.ledger)
    saved.set(page, (saved.get(page) ?? 0) + expected - expectedRemains);
  const shift = (path: string) =>
    Math.max(
      0,
      ...(run.pages.find((page) => page.path === path)?.visits ?? []).map((each) => each.shift.score),
    );
  return run.pages
    .filter(({ visits }) => visits.some(({ state }) => state === 'complete' || state === 'partial'))
    .map(({ path }) => path)
    .sort((a, b) => (saved.get(b) ?? 0) - (saved.get(a) ?? 0) || shift(b) - shift(a) || (a < b ? -1 : 1));
}

async function compareFixes(
  site: Site,
  run: Readonly<Run>,
  { size, interrupted }: ReportPicturesOptions,
  progress: Progress,
  notes: string[],
): Promise<FixDetail[]> {
  const candidates = run.fixes.flatMap((fix) => {
    const example = exampleOf(fix, run);
    return example ? [{ fix, example }] : [];
  });
  const chosen = candidates.slice(0, most[size].details);
  if (chosen.length < candidates.length)
    notes.push(
      `Details are shown of the first ${chosen.length} fixes that change a file; --pictures full shows all ${candidates.length}.`,
    );
  progress.begin('details', chosen.length);
  const details: FixDetail[] = [];
  for (const { fix, example } of chosen) {
    if (interrupted?.aborted) break;
    try {
      details.push(...(await detailOf(site, fix, example, size)));
    } catch (cause) {
      notes.push(`No detail of ${fix.id}: ${causeInWords(cause)}.`);
    }
    progress.step();
  }
  return details;
}

interface Example {
  placement: string;
  screen: Screen;
  /** Device px at which the picture is drawn there. */
  width: number;
  before: ImageFile;
  /** Address and bytes of the lighter file. */
  after: { url: string; bytes: number };
  /** The file that it is made from; undefined where it is there already. */
  master: ImageFile | undefined;
}

/** The place and the screen where the fix changes a still picture's file, on the screen with most visits. */
function exampleOf(fix: Fix, run: Readonly<Run>): Example | undefined {
  const files = new Map(run.files.map((file) => [file.url, file]));
  const placements = new Map(run.placements.map((each) => [each.id, each]));
  const shown = new Set(fix.edits.map(({ example }) => example));
  const places = [...fix.places].sort(
    (a, b) => Number(shown.has(b.placement)) - Number(shown.has(a.placement)),
  );
  const screens = [...run.screens].sort((a, b) => b.share - a.share);
  for (const { placement, takes } of places)
    for (const screen of screens) {
      const { before, after, bytes } = takes[screen.name] ?? {};
      const drawn = placements.get(placement)?.shown[screen.name]?.drawnWidth ?? 0;
      const was = files.get(before ?? '');
      if (
        !was ||
        after === undefined ||
        after === null ||
        bytes === undefined ||
        before === after ||
        drawn < 40
      )
        continue;
      const made = fix.files.find(({ name }) => name === after);
      const master = made && files.get(made.from);
      if ((!made && !files.has(after)) || (made && !master)) continue;
      if (made && (made.recipe === 'still' || made.recipe === 'cropped' || made.recipe === 'cleaned'))
        continue;
      if (was.frames > 1 || was.format === 'svg' || was.problem !== undefined) continue;
      const width = Math.min(mostDots, Math.round(drawn * screen.density));
      return { placement, screen, width, before: was, after: { url: after, bytes }, master };
    }
  return undefined;
}

/** Larger pictures are shown at this width: their dots are no bigger. */
const mostDots = 3000;

async function detailOf(
  site: Site,
  fix: Fix,
  { placement, screen, width, before, after, master }: Example,
  size: PictureSize,
): Promise<FixDetail[]> {
  const was = await contentOf(site, before.url);
  const made = fix.files.find(({ name }) => name === after.url);
  const is =
    made && master
      ? (await makeFile(await contentOf(site, made.from), made, master)).content
      : await contentOf(site, after.url);
  const compared = await compareDetail(was, is, width, size);
  if (!compared) return [];
  return [
    {
      fix: fix.id,
      screen: screen.name,
      placement,
      before: { url: before.url, bytes: before.bytes, picture: compared.before },
      after: { ...after, picture: compared.after },
      difference: compared.difference,
      largest: compared.largest,
    },
  ];
}

async function contentOf(site: Site, url: string): Promise<Buffer> {
  const file = site.fileAt(url);
  if (file === undefined) throw new Error(`${url} is not there`);
  return site.read(file);
}
