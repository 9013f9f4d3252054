import { readImageMarkup } from '../markup/index.js';
import type { Fix, FixPlace, Run } from '../run/types.js';

/**
 * Tells which places of a fix are others once its text is pasted: those that stand in files, and copies of them which a script of the page
 * makes, such as the ends of a carousel that goes round. A copy stands in no file and is written as one that does, on the same page. What a
 * script makes by itself stays as it is.
 */
export function changedPlaces(run: Pick<Run, 'placements'>): (fix: Pick<Fix, 'places'>) => FixPlace[] {
  const written = new Map(run.placements.map(({ id, page, markup }) => [id, { page, markup }]));
  const textOf = ({ placement }: FixPlace): string | undefined => {
    const own = written.get(placement);
    const markup = own && readImageMarkup(own.markup);
    return markup && JSON.stringify([own.page, markup]);
  };
  return ({ places }) => {
    const inFiles = places.filter(({ source }) => source !== null);
    if (inFiles.length === places.length) return inFiles;
    const copied = new Set(inFiles.map(textOf));
    return places.filter((place) => {
      if (place.source !== null) return true;
      const text = textOf(place);
      return text !== undefined && copied.has(text);
    });
  };
}
