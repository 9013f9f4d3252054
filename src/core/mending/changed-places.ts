import { readImageMarkup } from '../markup/index.js';
import type { Fix, FixPlace, Run } from '../run/types.js';

/**
 * The places of each fix that are others once its text is pasted: those that stand in files, and copies of them which a script of the page
 * makes, such as the ends of a carousel that goes round. A copy stands in no file and is written as one that does, on the same page. What a
 * script makes by itself stays as it is.
 */
export function changedPlaces(
  { placements }: Pick<Run, 'placements'>,
  fixes: readonly Fix[],
): Map<Fix, FixPlace[]> {
  const markups = new Map(placements.map(({ id, markup }) => [id, markup]));
  const textOf = ({ page, placement }: FixPlace): string | undefined => {
    const markup = readImageMarkup(markups.get(placement) ?? '');
    return markup && JSON.stringify([page, markup]);
  };
  return new Map(
    fixes.map((fix) => {
      if (fix.places.every(({ source }) => source !== null)) return [fix, fix.places];
      const copied = new Set(fix.places.filter(({ source }) => source !== null).map(textOf));
      copied.delete(undefined);
      return [fix, fix.places.filter((place) => place.source !== null || copied.has(textOf(place)))];
    }),
  );
}
