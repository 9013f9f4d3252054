import { styleAttribute } from '../browser/index.js';
import type { SourcePosition } from '../core/run/index.js';
import {
  findPageStyleImages,
  findStyleImages,
  plainSelector,
  readText,
  type ParsedPage,
  type Site,
  type StyleImage,
} from '../site/index.js';
import type { AuditContext } from './context.js';

/** A place that names an image: the rule as written, where it stands, and what its addresses are resolved against. */
export interface StylePlace {
  position: SourcePosition;
  rule: string;
  selector: string | null;
  base: string;
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
    for (const { property, url, line, column, rule, selector } of images) {
      const key = keyOf(property, urls.resolve(url, new URL(base, site.origin).href));
      const place = { position: { file, line, column }, rule, selector, base };
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

/**
 * The place that shows an image; undefined where a script wrote it.
 * @param rules selectors of the rules that match the element, as the browser writes them
 */
export function stylePlace(
  places: StylePlaces,
  property: string,
  url: string,
  rules: readonly string[],
): StylePlace | undefined {
  const candidates = places.get(keyOf(property, url)) ?? [];
  if (rules.length === 0) return candidates.length === 1 ? candidates[0] : undefined;
  const matching = new Set(rules.map((rule) => (rule === styleAttribute ? null : plainSelector(rule))));
  return candidates.findLast(({ selector }) => matching.has(selector));
}
