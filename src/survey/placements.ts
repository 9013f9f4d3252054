import { toDecimals } from '../core/wording/rounding.js';
import {
  candidateUrls,
  environmentOf,
  naturalSize,
  pickImage,
  type ParsedImage,
} from '../core/markup/index.js';
import { styleOptions } from '../core/plan/style-rule.js';
import { classesIn, templateOf } from '../core/plan/template.js';
import { drawnSize } from '../core/layout/drawn-size.js';
import type { Download, ImageFile, ImageState, Placement, Screen, Shown, Slot } from '../core/run/index.js';
import type { Page } from '../site/index.js';
import type { Faults } from '../core/judging/faults.js';
import { identify, isLinked, type Identified, type SourceDocument, type SourcePlace } from './identity.js';
import {
  isFor,
  isLazy,
  laidOutDensity,
  offeredImage,
  parsedImage,
  preloadedImage,
} from './offered-images.js';
import type { SiteUrls } from './site-urls.js';
import { placesOfStyled, type StylePlaces } from './style-places.js';
import { unfinished } from './visit-summary.js';
import type { VisitSummary } from './visit-summary.js';
import type { ObservedElement } from './observed-elements.js';

type FileOf = (url: string) => ImageFile | undefined;

export interface PageSources {
  /** The file behind an address of a frame, or behind the page itself. */
  documentOf(frameUrl: string | undefined): SourceDocument | undefined;
  styles?: StylePlaces;
}

export interface BuiltPlacements {
  placements: Placement[];
  /** By what identifies an element on every screen. */
  byKey: ReadonlyMap<string, Placement>;
  /** By screen: the placement of each node that its visit saw. */
  byNode: Map<string, Map<string, Placement>>;
}

/** An element that shows something on a screen. */
interface Found extends Identified {
  /** The address that it shows, from the site's root. */
  shows: string | null;
  view: Screen;
  baseUrl: string;
}

/** Joins what several screens saw of a page into its placements, in the order of the document. */
export function buildPlacements(
  page: Page,
  visits: readonly { screen: Screen; summary: VisitSummary }[],
  { documentOf, styles = new Map() }: PageSources,
  { urls, fileOf, faults }: { urls: SiteUrls; fileOf: FileOf; faults: Faults },
): BuiltPlacements {
  const byKey = new Map<string, Placement>();
  const byNode: BuiltPlacements['byNode'] = new Map();
  for (const { screen, summary } of visits) {
    const nodes = new Map<string, Placement>();
    byNode.set(screen.name, nodes);
    const downloads = firstTransfers(summary.visit.downloads);
    // What differs in height alone is a page that is scrolled sideways.
    const laidOut = summary.viewport && summary.viewport.width !== screen.width ? summary.viewport : screen;
    const found: Found[] = [];
    const find = (identified: Identified) => {
      const { frame } = identified.element;
      const { width, height } = frame ?? laidOut;
      const view = { ...screen, width, height };
      const baseUrl = frame?.baseUrl ?? summary.baseUrl;
      const shows = observedUrl(identified.element, downloads, urls, baseUrl, view);
      if (!isLinked(identified.element) || shows !== null)
        found.push({ ...identified, shows, view, baseUrl });
    };
    const addElement = (each: Found) => {
      const { element, place, key, shows, view, baseUrl } = each;
      const placement = byKey.get(key) ?? newPlacement(page, element, place, urls, urls.shorten(baseUrl));
      const rule = styled.get(each);
      if (rule && placement.source === null) {
        placement.source = rule.position;
        placement.markup = rule.rule;
        placement.base = rule.base;
        placement.template = `style ${rule.rule}`;
      }
      byKey.set(key, placement);
      nodes.set(element.node, placement);
      addScreen(placement, element, view, shows, { urls, baseUrl, downloads, fileOf });
      const viewport = { [screen.name]: { width: view.width, height: view.height } };
      if (element.frame) placement.frames = { ...placement.frames, ...viewport };
      else if (laidOut !== screen) placement.viewports = { ...placement.viewports, ...viewport };
    };
    const guarded = <Each extends Identified>(each: Each, work: (each: Each) => void) => {
      const at = { page: page.path, selector: each.element.selector };
      faults.attempt(`reading an image on ${screen.name}`, at, () => work(each));
    };
    for (const each of identify(summary.observed, documentOf)) guarded(each, find);
    const styled = placesOfStyled(styles, page, found);
    for (const each of found) guarded(each, addElement);
  }
  const placements = [...byKey.values()].sort((a, b) => byPosition(a, b, page.file));
  placements.forEach((placement, index) => (placement.id = `${page.path}#${index + 1}`));
  return { placements, byKey, byNode };
}

/** Of a file that was asked for more than once the first transfer that brought something. */
function firstTransfers(downloads: readonly Download[]): Map<string, Download> {
  const first = new Map<string, Download>();
  const brought = ({ bytes, failure }: Download) => bytes > 0 && failure === undefined;
  for (const download of downloads) {
    const known = first.get(download.url);
    if (!known || (!brought(known) && brought(download))) first.set(download.url, download);
  }
  return first;
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
  place: SourcePlace | null,
  urls: SiteUrls,
  base: string,
): Placement {
  const classes = classesIn(element.attributes.find(([name]) => name === 'class')?.[1]);
  return {
    id: '',
    page: page.path,
    kind: element.kind,
    selector: element.selector,
    source: place && { file: place.file, line: place.element.line, column: place.element.column },
    template: templateOf(
      element.chain,
      { tag: element.tag, classes },
      element.attributes.map(([name]) => name),
    ),
    markup: place?.element.markup ?? urls.withoutOrigin(element.markup),
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

/** The address that an element shows on a screen, from the site's root. */
function observedUrl(
  element: ObservedElement,
  downloads: ReadonlyMap<string, Download>,
  urls: SiteUrls,
  baseUrl: string,
  screen: Screen,
): string | null {
  const preloaded = preloadedImage(element);
  if (preloaded && !isFor(element, screen)) return null;
  const picked = preloaded && pickImage(preloaded, environmentOf(screen))?.url;
  if (picked !== undefined) {
    const url = urls.resolve(picked, baseUrl);
    return downloads.has(url) ? url : null;
  }
  if (!isLinked(element)) return element.currentSrc === '' ? null : urls.shorten(element.currentSrc);
  const fetched = (element.addresses ?? [element.currentSrc]).map((url) => urls.resolve(url, baseUrl));
  return fetched.find((url) => downloads.has(url)) ?? null;
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
    const written = element.addresses ?? candidatesOf(offeredImage(element), observed);
    placement.candidates = written.map((url) => urls.resolve(url, baseUrl));
  }
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
  const { slot, fit, widthFrom, heightFrom, limitWidth, largestPaint } = element;
  const beforeScroll = oneOf(slot, element.beforeScroll);
  const whileWaiting = oneOf(beforeScroll, element.whileWaiting);
  const size = { width: file?.width ?? 0, height: file?.height ?? 0 };
  const drawn = slot ? drawnSize(slot, naturalSize(size, density), fit) : { width: 0, height: 0 };
  const shown: Shown = {
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
    concealed: element.concealed,
    seenLater: element.seenLater,
    pictureWrap: element.pictureWrap,
    behind: element.behind,
    waiting: element.waitingLook,
    largestPaint,
    lazy: isLazy(element),
  };
  if (element.followsFile) shown.followsFile = true;
  if (element.shownByOther) shown.shownByOther = true;
  return shown;
}

/** The box itself, or the other where that is equal: most boxes never move, and there are thousands of them. */
function oneOf(other: Slot | null, box: Slot | null): Slot | null {
  const isSame =
    other?.x === box?.x &&
    other?.y === box?.y &&
    other?.width === box?.width &&
    other?.height === box?.height;
  return isSame ? other : box;
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
  return pick && urls.resolve(pick.url, baseUrl) === observed ? laidOutDensity(pick.density) : 1;
}

function stateOf(
  element: ObservedElement,
  download: Download | undefined,
  file: ImageFile | undefined,
): ImageState {
  if (download?.failure === unfinished) return 'not-loaded';
  if (element.currentSrc === '') return parsedImage(element) && element.complete ? 'no-source' : 'not-loaded';
  if (download && (download.status >= 400 || download.failure !== undefined)) return 'broken';
  if (element.kind !== 'img' && element.kind !== 'picture') return download ? 'drawn' : 'not-loaded';
  if (!element.complete) return 'not-loaded';
  // Vector pictures without a size of their own have no natural width and are drawn all the same.
  return element.naturalWidth > 0 || file?.format === 'svg' ? 'drawn' : 'broken';
}
