import { styleAttribute } from '../browser/index.js';
import { groupBy } from '../core/grouping.js';
import { environmentOf, mediaQueriesMatch, parseMediaQueryList } from '../core/markup/index.js';
import { classesIn, type TemplateLink } from '../core/plan/template.js';
import type { Screen, SourcePosition } from '../core/run/index.js';
import {
  findPageStyleImages,
  findStyleImages,
  isCustom,
  isForScripts,
  matchElements,
  plainSelector,
  readText,
  type LiveElement,
  type ParsedPage,
  type Site,
  type StyleImage,
} from '../site/index.js';
import type { AuditContext } from './context.js';
import type { ObservedElement } from './observed-elements.js';

/** A place that names an image: the rule as written, where it stands, and what its addresses are resolved against. */
export interface StylePlace {
  position: SourcePosition;
  /** That is declared: a custom one holds images for others. */
  property: string;
  /** Conditions of all rules around it, as written. */
  media: readonly string[];
  rule: string;
  selector: string | null;
  base: string;
  /** The element whose attribute it is. */
  element?: LiveElement;
}

/** Where styles name images: by property and by the image's address, in the order of the sheets. */
export type StylePlaces = ReadonlyMap<string, readonly StylePlace[]>;

/** Which custom property a declaration refers to does not show in its value, … */
const anyCustom = '--';
/** … nor does the attribute that a script took it from. */
const anyForScripts = 'data-';

/** `background-image` is mostly written as `background`. */
function family(property: string): string {
  if (isCustom(property)) return anyCustom;
  if (isForScripts(property)) return anyForScripts;
  return property.replace(/^-webkit-/, '').split('-')[0] ?? property;
}
const keyOf = (property: string, url: string) => `${family(property)} ${url}`;

/** Reads the styles of a page: the sheets that it asked for, and its own. A sheet that cannot be read has no places. */
export async function readStylePlaces(
  { site, urls, faults, sheetImages }: Pick<AuditContext, 'site' | 'urls' | 'faults' | 'sheetImages'>,
  sheets: Iterable<string>,
  page: { path: string; file: string; base: string; parsed: ParsedPage },
): Promise<StylePlaces> {
  const places = new Map<string, StylePlace[]>();
  const sorted = [...new Set(sheets)].sort();
  // Of those in one folder addresses count alike.
  const users = [...new Map([page.base, ...sorted].map((base) => [folderOf(base), base])).values()];
  const add = (file: string, own: string, images: readonly StyleImage[]) => {
    for (const { url, line, column, ...image } of images) {
      const keys = new Set<string>();
      // Chromium resolves the addresses of custom properties against what uses them, not against what declares them.
      for (const base of isCustom(image.property) ? [own, ...users] : [own]) {
        const key = keyOf(image.property, urls.resolve(url, new URL(base, site.origin).href));
        if (keys.has(key)) continue;
        keys.add(key);
        const place = { ...image, position: { file, line, column }, base };
        const known = places.get(key);
        if (known) known.push(place);
        else places.set(key, [place]);
      }
    }
  };
  for (const sheet of sorted) {
    const file = site.fileAt(sheet);
    if (file === undefined) continue;
    const reading = sheetImages.get(file) ?? readSheet(site, file);
    sheetImages.set(file, reading);
    try {
      add(file, sheet, (await reading) ?? []);
    } catch (cause) {
      faults.note(`reading ${file}`, { page: page.path }, cause);
    }
  }
  faults.attempt('reading its styles', { page: page.path }, () =>
    add(page.file, page.base, findPageStyleImages(page.parsed)),
  );
  return places;
}

const folderOf = (address: string) => address.slice(0, address.lastIndexOf('/') + 1);

/** @returns undefined where the sheet cannot be read */
async function readSheet(site: Site, file: string): Promise<StyleImage[] | undefined> {
  const content = await site.read(file).catch(() => undefined);
  return content && findStyleImages(readText(content));
}

/** What a place is found by: which image an element shows by which property. */
export interface Styled {
  element: Pick<ObservedElement, 'tag' | 'attributes' | 'chain' | 'style' | 'rules' | 'frame'>;
  /** From the site's root; null where nothing is shown. */
  shows: string | null;
  view: Pick<Screen, 'width' | 'height' | 'density' | 'touch'>;
}

/**
 * The places that show the images of a visit, of its elements in the order of the document; none where a script wrote them.
 * @param page whose elements they are
 */
export function placesOfStyled<Each extends Styled>(
  places: StylePlaces,
  page: { file: string },
  styled: readonly Each[],
): Map<Each, StylePlace> {
  const found = new Map<Each, StylePlace>();
  for (const each of styled) {
    const { element, shows } = each;
    if (!element.style || shows === null) continue;
    const place = placeFor(candidatesFor(places, page, each), element.rules ?? []);
    if (place) found.set(each, place);
  }
  const inAttributes = groupBy(
    [...found].filter(([, { element }]) => element),
    ([{ shows }, { property }]) => keyOf(property, shows ?? ''),
  );
  for (const [key, group] of inAttributes)
    for (const [each, place] of ownAttributes(
      group.map(([each]) => each),
      places.get(key) ?? [],
    )) {
      if (place) found.set(each, place);
      else found.delete(each);
    }
  return found;
}

/** Places that name what an element shows, and hold on its screen. */
function candidatesFor(
  places: StylePlaces,
  page: { file: string },
  { element, shows, view }: Styled,
): readonly StylePlace[] {
  const environment = environmentOf(view);
  const of = (property: string) => {
    const named = places.get(keyOf(property, shows ?? '')) ?? [];
    // What the page has in its file shows nothing in its frames.
    const own = element.frame ? named.filter(({ position }) => position.file !== page.file) : named;
    const holding = own.filter(({ media }) =>
      media.every((condition) => mediaQueriesMatch(parseMediaQueryList(condition), environment)),
    );
    return holding.length > 0 ? holding : own;
  };
  for (const property of [element.style?.property ?? '', anyCustom]) {
    const named = of(property);
    if (named.length > 0) return named;
  }
  return of(anyForScripts).filter((place) => isAround(place, element));
}

/**
 * Whether a script may have taken an element's image from an attribute: it stands on an element of this name, or on one around it that looks
 * like that of the file. Addresses are written into attributes for other ends too.
 */
function isAround({ element: written }: StylePlace, { tag, chain }: Styled['element']): boolean {
  if (!written) return false;
  const wanted = classesIn(written.attributes.find(([name]) => name === 'class')?.[1]);
  const alike = ({ tag: name, classes }: TemplateLink) =>
    name === written.tag && (wanted.length === 0 || wanted.some((each) => classes.includes(each)));
  return tag === written.tag || chain.some(alike);
}

/** @param rules selectors of the rules that match the element, as the browser writes them */
function placeFor(candidates: readonly StylePlace[], rules: readonly string[]): StylePlace | undefined {
  const [first] = candidates;
  // A custom property may come from an element around this one.
  if (rules.length === 0 || (first && (isCustom(first.property) || isForScripts(first.property))))
    return candidates.length === 1 || candidates.every(({ element }) => element) ? first : undefined;
  const matching = new Set(rules.map((rule) => (rule === styleAttribute ? null : plainSelector(rule))));
  return candidates.findLast(({ selector }) => matching.has(selector));
}

/**
 * Many elements may show one image, each by an attribute of its own. A copy that a script made has that of the one before it. Where the
 * attributes are those of elements around them, as many as there are, they go by their order; else it cannot be told which of several it is.
 */
function* ownAttributes<Each extends Styled>(
  styled: readonly Each[],
  places: readonly StylePlace[],
): Generator<[Each, StylePlace | undefined]> {
  const written = places.flatMap((place) => (place.element ? [{ place, ...place.element }] : []));
  const live = styled.map(({ element }) => element);
  const found = matchElements(live, written);
  const around = found.every((match) => match === null) && live.length === written.length;
  let before = written.length === 1 ? written[0]?.place : undefined;
  for (const [index, match] of (around ? written : found).entries()) {
    before = match?.place ?? before;
    const each = styled[index];
    if (each) yield [each, before];
  }
}
