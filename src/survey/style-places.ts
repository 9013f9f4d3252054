import type { SourcePosition } from '../core/run/index.js';
import { findStyleImages } from '../site/index.js';
import type { AuditContext } from './context.js';

/** Where style sheets name images: by property and by the image's address. */
export type StylePlaces = ReadonlyMap<string, SourcePosition>;

/** `background-image` is mostly written as `background`. */
const family = (property: string) => property.replace(/^-webkit-/, '').split('-')[0] ?? property;
const keyOf = (property: string, url: string) => `${family(property)} ${url}`;

/** Reads the style sheets that a page asked for. A sheet that cannot be read has no places. */
export async function readStylePlaces(
  { site, urls }: AuditContext,
  sheets: Iterable<string>,
): Promise<StylePlaces> {
  const places = new Map<string, SourcePosition>();
  for (const sheet of [...new Set(sheets)].sort()) {
    const file = site.fileAt(sheet);
    if (file === undefined) continue;
    const css = (await site.read(file)).toString('utf8');
    for (const { property, url, line, column } of findStyleImages(css)) {
      const key = keyOf(property, urls.resolve(url, site.origin + sheet));
      if (!places.has(key)) places.set(key, { file, line, column });
    }
  }
  return places;
}

/** The place of the declaration that shows an image; null where it stands in the page itself or a script wrote it. */
export function stylePlace(places: StylePlaces, declaration: string, url: string): SourcePosition | null {
  return places.get(keyOf(declaration.slice(0, declaration.indexOf(':')), url)) ?? null;
}
