import { styleAttribute } from '../browser/index.js';
import { groupBy } from '../core/grouping.js';
import type { SourcePosition } from '../core/run/index.js';
import {
  findPageStyleImages,
  findStyleImages,
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
  rule: string;
  selector: string | null;
  base: string;
  /** The element whose attribute it is. */
  element?: LiveElement;
}

/** Where styles name images: by property and by the image's address, in the order of the sheets. */
export type StylePlaces = ReadonlyMap<string, readonly StylePlace[]>;

/** `background-image` is mostly written as `background`. */
const family = (property: string) => property.replace(/^-webkit-/, '').split('-')[0] ?? property;
const keyOf = (property: string, url: string) => `${family(property)} ${url}`;

/** Reads the styles of a page: the sheets that it asked for, and its own. A sheet that cannot be read has no places. */
export async function readStylePlaces(
  { site, urls, faults, sheetImages }: Pick<AuditContext, 'site' | 'urls' | 'faults' | 'sheetImages'>,
  sheets: Iterable<string>,
  page: { path: string; file: string; base: string; parsed: ParsedPage },
): Promise<StylePlaces> {
  const places = new Map<string, StylePlace[]>();
  const add = (file: string, base: string, images: readonly StyleImage[]) => {
    for (const { property, url, line, column, rule, selector, element } of images) {
      const key = keyOf(property, urls.resolve(url, new URL(base, site.origin).href));
      const place = {
        position: { file, line, column },
        rule,
        selector,
        base,
        ...(element ? { element } : {}),
      };
      const known = places.get(key);
      if (known) known.push(place);
      else places.set(key, [place]);
    }
  };
  for (const sheet of [...new Set(sheets)].sort()) {
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

/** @returns undefined where the sheet cannot be read */
async function readSheet(site: Site, file: string): Promise<StyleImage[] | undefined> {
  const content = await site.read(file).catch(() => undefined);
  return content && findStyleImages(readText(content));
}

/** What a place is found by: which image an element shows by which property. */
export interface Styled {
  element: Pick<ObservedElement, 'tag' | 'attributes' | 'style' | 'rules' | 'frame'>;
  /** From the site's root; null where nothing is shown. */
  shows: string | null;
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
  const inAttributes: [Each, string][] = [];
  for (const each of styled) {
    const { element, shows } = each;
    if (!element.style || shows === null) continue;
    const key = keyOf(element.style.property, shows);
    const named = places.get(key) ?? [];
    // What the page has in its file shows nothing in its frames.
    const place = placeFor(
      element.frame ? named.filter(({ position }) => position.file !== page.file) : named,
      element.rules ?? [],
    );
    if (place) found.set(each, place);
    if (place?.element) inAttributes.push([each, key]);
  }
  for (const [key, group] of groupBy(inAttributes, ([, each]) => each))
    for (const [each, place] of ownAttributes(
      group.map(([each]) => each),
      places.get(key) ?? [],
    ))
      found.set(each, place);
  return found;
}

/** @param rules selectors of the rules that match the element, as the browser writes them */
function placeFor(candidates: readonly StylePlace[], rules: readonly string[]): StylePlace | undefined {
  if (rules.length === 0) return candidates.length === 1 ? candidates[0] : undefined;
  const matching = new Set(rules.map((rule) => (rule === styleAttribute ? null : plainSelector(rule))));
  return candidates.findLast(({ selector }) => matching.has(selector));
}

/** Many elements may show one image, each by an attribute of its own. A copy that a script made has that of the one before it. */
function* ownAttributes<Each extends Styled>(
  styled: readonly Each[],
  places: readonly StylePlace[],
): Generator<[Each, StylePlace]> {
  const written = places.flatMap((place) => (place.element ? [{ place, ...place.element }] : []));
  const live = styled.map(({ element }) => element);
  let before: StylePlace | undefined;
  for (const [index, match] of matchElements(live, written).entries()) {
    before = match?.place ?? before;
    const each = styled[index];
    if (each && before) yield [each, before];
  }
}
