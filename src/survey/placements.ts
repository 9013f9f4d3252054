import { toDecimals } from '../core/wording/rounding.js';
import {
  candidateUrls,
  environmentOf,
  mediaQueriesMatch,
  naturalSize,
  parseImage,
  parseMediaQueryList,
  pickImage,
  sourceAttributes,
  type ParsedImage,
} from '../core/markup/index.js';
import { styleOptions } from '../core/plan/style-rule.js';
import { templateOf } from '../core/plan/template.js';
import { drawnSize } from '../core/layout/drawn-size.js';
import type { Download, ImageFile, ImageState, Placement, Screen, Shown } from '../core/run/index.js';
import { matchElements, type Page, type SourceElement } from '../site/index.js';
import type { SiteUrls } from './site-urls.js';
import { stylePlace, type StylePlaces } from './style-places.js';
import { keyOf, type ObservedElement, type VisitSummary } from './visit-summary.js';

type FileOf = (url: string) => ImageFile | undefined;

/** Joins what several screens saw of a page into its placements, in the order of the document. */
export function buildPlacements(
  page: Page,
  visits: readonly { screen: Screen; summary: VisitSummary }[],
  source: readonly SourceElement[],
  urls: SiteUrls,
  fileOf: FileOf,
  styles: StylePlaces = new Map(),
): Placement[] {
  const byKey = new Map<string, Placement>();
  for (const { screen, summary } of visits) {
    const places = placesOf(summary.observed, source);
    const downloads = new Map(summary.visit.downloads.map((download) => [download.url, download]));
    summary.observed.forEach((element, index) => {
      const shows = observedUrl(element, downloads, urls, summary.baseUrl, screen);
      if (isLinked(element) && shows === null) return;
      const key = keyOf(element);
      const base = urls.shorten(summary.baseUrl);
      const placement = byKey.get(key) ?? newPlacement(page, element, places[index] ?? null, urls, base);
      if (element.style && shows !== null && placement.source === null) {
        const place = stylePlace(styles, element.style.property, shows, element.rules ?? []);
        if (place) {
          placement.source = place.position;
          placement.markup = place.rule;
          placement.base = place.base;
          placement.template = `style ${place.rule}`;
        }
      }
      byKey.set(key, placement);
      addScreen(placement, element, screen, shows, { urls, baseUrl: summary.baseUrl, downloads, fileOf });
    });
  }
  const placements = [...byKey.values()].sort((a, b) => byPosition(a, b, page.file));
  placements.forEach((placement, index) => (placement.id = `${page.path}#${index + 1}`));
  return placements;
}

/** Elements that scripts made have no place of their own and come last, in the order in which they were seen. */
function byPosition(a: Placement, b: Placement, pageFile: string): number {
  if (!a.source || !b.source) return Number(a.source === null) - Number(b.source === null);
  if (a.source.file !== b.source.file) {
    // What style sheets show comes behind what the page itself shows.
    const away = Number(a.source.file !== pageFile) - Number(b.source.file !== pageFile);
    return away || (a.source.file < b.source.file ? -1 : 1);
  }
  return a.source.line - b.source.line || a.source.column - b.source.column;
}

function newPlacement(
  page: Page,
  element: ObservedElement,
  place: SourceElement | null,
  urls: SiteUrls,
  base: string,
): Placement {
  const classes = (element.attributes.find(([name]) => name === 'class')?.[1] ?? '')
    .split(/\s+/)
    .filter(Boolean);
  return {
    id: '',
    page: page.path,
    kind: element.kind,
    selector: element.selector,
    source: place && { file: page.file, line: place.line, column: place.column },
    template: templateOf(
      element.chain,
      { tag: element.tag, classes },
      element.attributes.map(([name]) => name),
    ),
    markup: place?.markup ?? urls.withoutOrigin(element.markup),
    base,
    ...(element.style ? { style: element.style } : {}),
    alt: element.attributes.find(([name]) => name === 'alt')?.[1] ?? null,
    slots: {},
    picks: {},
    downloads: {},
    shown: {},
    candidates: [],
  };
}

/** What only asks for a file, or shows it by style: it is there when the file was fetched. */
const isLinked = ({ kind }: ObservedElement) =>
  kind === 'css-image' || kind === 'preload' || kind === 'icon-link';

/** Elements of the page, then links: each kind stands in the order of the document. */
function placesOf(
  observed: readonly ObservedElement[],
  source: readonly SourceElement[],
): (SourceElement | null)[] {
  const isLink = ({ tag }: { tag: string }) => tag === 'link';
  const pictures = observed.filter((element) => !isLinked(element));
  const links = observed.filter((element) => isLinked(element) && isLink(element));
  const places = new Map<ObservedElement, SourceElement | null>();
  for (const [live, written] of [
    [pictures, source.filter((element) => !isLink(element))],
    [links, source.filter(isLink)],
  ] as const)
    matchElements(live, written).forEach((place, index) => {
      const element = live[index];
      if (element) places.set(element, place);
    });
  return observed.map((element) => places.get(element) ?? null);
}

/** The address that an element shows on a screen, from the site's root. */
function observedUrl(
  element: ObservedElement,
  downloads: ReadonlyMap<string, Download>,
  urls: SiteUrls,
  baseUrl: string,
  screen: Screen,
): string | null {
  const preloaded = preloadedImage(element);
  const media = element.attributes.find(([name]) => name === 'media')?.[1];
  if (
    preloaded &&
    media !== undefined &&
    !mediaQueriesMatch(parseMediaQueryList(media), environmentOf(screen))
  )
    return null;
  const picked = preloaded && pickImage(preloaded, environmentOf(screen))?.url;
  if (picked !== undefined) {
    const url = urls.resolve(picked, baseUrl);
    return downloads.has(url) ? url : null;
  }
  if (!isLinked(element)) return element.currentSrc === '' ? null : urls.shorten(element.currentSrc);
  const fetched = (element.addresses ?? [element.currentSrc]).map((url) => urls.resolve(url, baseUrl));
  return fetched.find((url) => downloads.has(url)) ?? null;
}

/** The candidates of a preload are those of an image. HTML standard, 4.2.4 "imagesrcset". */
function preloadedImage({ kind, attributes }: ObservedElement): ParsedImage | undefined {
  if (kind !== 'preload') return undefined;
  const value = (name: string) => attributes.find(([each]) => each === name)?.[1];
  const [srcset, sizes, src] = [value('imagesrcset'), value('imagesizes'), value('href')];
  return parseImage({
    img: {
      ...(srcset === undefined ? {} : { srcset }),
      ...(sizes === undefined ? {} : { sizes }),
      ...(src === undefined ? {} : { src }),
    },
    sources: [],
  });
}

interface ScreenContext {
  urls: SiteUrls;
  baseUrl: string;
  downloads: ReadonlyMap<string, Download>;
  fileOf: FileOf;
}

function addScreen(
  placement: Placement,
  element: ObservedElement,
  screen: Screen,
  observed: string | null,
  { urls, baseUrl, downloads, fileOf }: ScreenContext,
): void {
  const image = parsedImage(element);
  const predicted = image
    ? pickImage(image, environmentOf(screen), { autoWidth: element.slot?.width })?.url
    : undefined;
  const download = observed === null ? undefined : downloads.get(observed);
  const file = observed === null ? undefined : fileOf(observed);
  placement.slots[screen.name] = element.slot;
  placement.picks[screen.name] = {
    predicted: image ? (predicted === undefined ? null : urls.resolve(predicted, baseUrl)) : observed,
    observed,
  };
  if (download && download.status < 400 && download.failure === undefined) {
    const { url, bytes, began, scrollDepth } = download;
    placement.downloads[screen.name] = { url, bytes, began, scrollDepth };
  }
  const density = densityOf(element, observed, screen, { urls, baseUrl });
  placement.shown[screen.name] = shownOn(element, download, file, density);
  if (placement.candidates.length === 0) {
    const written = element.addresses ?? candidatesOf(image ?? preloadedImage(element), observed);
    placement.candidates = written.map((url) => urls.resolve(url, baseUrl));
  }
}

/** Candidates as the element writes them now, which for a script's late change is not what the file says. */
export function parsedImage(
  element: Pick<ObservedElement, 'kind' | 'attributes' | 'sources'>,
): ParsedImage | undefined {
  if (element.kind !== 'img' && element.kind !== 'picture') return undefined;
  return parseImage({
    img: sourceAttributes(element.attributes),
    sources: element.sources.map(sourceAttributes),
  });
}

function candidatesOf(image: ParsedImage | undefined, observed: string | null): string[] {
  if (image) return candidateUrls(image);
  return observed === null ? [] : [observed];
}

function shownOn(
  element: ObservedElement,
  download: Download | undefined,
  file: ImageFile | undefined,
  density: number,
): Shown {
  const { slot, whileWaiting, beforeScroll, fit, widthFrom, heightFrom, limitWidth, largestPaint } = element;
  const size = { width: file?.width ?? 0, height: file?.height ?? 0 };
  const drawn = slot ? drawnSize(slot, naturalSize(size, density), fit) : { width: 0, height: 0 };
  return {
    state: stateOf(element, download, file),
    whileWaiting,
    beforeScroll,
    fit,
    widthFrom,
    heightFrom,
    limitWidth: limitWidth === null ? null : toDecimals(limitWidth, 2),
    drawnWidth: toDecimals(drawn.width, 2),
    drawnHeight: toDecimals(drawn.height, 2),
    fileWidth: size.width,
    fileHeight: size.height,
    seen: element.seen,
    waiting: element.waitingLook,
    largestPaint,
    lazy: element.attributes.some(([name, value]) => name === 'loading' && value.toLowerCase() === 'lazy'),
  };
}

/** The density with which a file was laid out, by the markup or the style that names it; 1 where neither tells. */
function densityOf(
  element: ObservedElement,
  observed: string | null,
  screen: Screen,
  { urls, baseUrl }: Pick<ScreenContext, 'urls' | 'baseUrl'>,
): number {
  if (element.style) {
    const options = styleOptions(element.markup, { ...element.style, layer: 0 });
    return options.find(({ url }) => urls.resolve(url, baseUrl) === observed)?.density ?? 1;
  }
  const image = parsedImage(element);
  const pick = image && pickImage(image, environmentOf(screen), { autoWidth: element.slot?.width });
  const explains = pick && urls.resolve(pick.url, baseUrl) === observed && Number.isFinite(pick.density);
  return explains && pick.density > 0 ? pick.density : 1;
}

function stateOf(
  element: ObservedElement,
  download: Download | undefined,
  file: ImageFile | undefined,
): ImageState {
  if (element.currentSrc === '') return parsedImage(element) && element.complete ? 'no-source' : 'not-loaded';
  if (download && (download.status >= 400 || download.failure !== undefined)) return 'broken';
  if (element.kind !== 'img' && element.kind !== 'picture') return download ? 'drawn' : 'not-loaded';
  if (!element.complete) return 'not-loaded';
  // Vector pictures without a size of their own have no natural width and are drawn all the same.
  return element.naturalWidth > 0 || file?.format === 'svg' ? 'drawn' : 'broken';
}
