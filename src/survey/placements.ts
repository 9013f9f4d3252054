import { environmentOf, pickImage } from '../core/markup/index.js';
import { classesIn, templateOf } from '../core/plan/template.js';
import type { Download, ImageFile, Placement, Screen, SourcePosition } from '../core/run/index.js';
import { isCustom, isForScripts, type Page } from '../site/index.js';
import type { Faults } from '../core/judging/faults.js';
import { identify, isLinked, type Identified, type SourceDocument, type SourcePlace } from './identity.js';
import { isFor, preloadedImage } from './offered-images.js';
import type { ObservedElement } from './observed-elements.js';
import { spreadElsewhere, withCopiedOriginals } from './copied-images.js';
import { addScreen } from './placement-screen.js';
import type { SiteUrls } from './site-urls.js';
import { placesOfStyled, type StylePlace, type StylePlaces } from './style-places.js';
import type { VisitSummary } from './visit-summary.js';

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
  const placements = new Map<string, Placement>();
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
      const rule = styled?.get(each);
      // What an element shows by one rule on some screens and by another one on others is edited in each of them.
      const ownKey = rule ? JSON.stringify([key, rule.position]) : key;
      const placement =
        placements.get(ownKey) ?? newPlacement(page, element, place, urls, urls.shorten(baseUrl));
      if (rule) standsIn(placement, rule);
      placements.set(ownKey, placement);
      if (!byKey.has(key)) byKey.set(key, placement);
      nodes.set(element.node, placement);
      addScreen(placement, element, view, shows, { urls, baseUrl, downloads, fileOf });
      const viewport = { [screen.name]: { width: view.width, height: view.height } };
      if (element.frame) placement.frames = { ...placement.frames, ...viewport };
      else if (laidOut !== screen) placement.viewports = { ...placement.viewports, ...viewport };
      if (summary.window && summary.window.height - laidOut.height >= leastHigher)
        placement.windows = { ...placement.windows, [screen.name]: summary.window };
    };
    const guarded = <Each extends Identified>(each: Each, work: (each: Each) => void) => {
      const at = { page: page.path, selector: each.element.selector };
      faults.attempt(`reading an image on ${screen.name}`, at, () => work(each));
    };
    for (const each of withCopiedOriginals(identify(summary.observed, documentOf))) guarded(each, find);
    const inStyles = () => placesOfStyled(styles, page, found);
    const styled = faults.attempt(
      `finding images of styles on ${screen.name}`,
      { page: page.path },
      inStyles,
    );
    for (const each of found) guarded(each, addElement);
  }
  const sorted = [...placements.values()].sort((a, b) => byPosition(a, b, page.file));
  spreadElsewhere(sorted);
  sorted.forEach((placement, index) => (placement.id = `${page.path}#${index + 1}`));
  return { placements: sorted, byKey, byNode };
}

/** Where styles of attributes are not applied, no `picture` can be without a box of its own. */
export function refuseBoxless(placements: readonly Placement[]): void {
  for (const { shown } of placements)
    for (const seen of Object.values(shown)) if (seen.pictureWrap === 'boxless') seen.pictureWrap = 'none';
}

/** A window that is higher by less is as high as the screen: heights are rounded, CSS px. */
const leastHigher = 2;

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

const positionOf = ({ file, element: { line, column, quote } }: SourcePlace): SourcePosition => ({
  file,
  line,
  column,
  ...(quote ? { quote } : {}),
});

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
    source: place && positionOf(place),
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

/** An image of a style stands in the rule that shows it, or in the attribute that a script takes it from. */
function standsIn(placement: Placement, { position, rule, base, property }: StylePlace): void {
  placement.source = position;
  placement.markup = rule;
  placement.base = base;
  if (isForScripts(property)) {
    placement.attribute = property;
    return;
  }
  placement.template = `style ${rule}`;
  if (isCustom(property)) placement.style = { property, layer: 0 };
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
