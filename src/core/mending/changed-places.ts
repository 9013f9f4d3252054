import { readImageMarkup } from '../markup/index.js';
import type { Fix, FixPlace, Placement, Run } from '../run/types.js';

/**
 * The places of each fix that are others once its text is pasted: those that stand in files, and copies of them which a script of the page
 * makes, such as the ends of a carousel that goes round. A copy stands in no file and is written as one that does, on the same page; or it shows the
 * file of an image whose address a script takes for others. What a script makes by itself stays as it is.
 */
export function changedPlaces(
  { placements }: Pick<Run, 'placements'>,
  fixes: readonly Fix[],
): Map<Fix, FixPlace[]> {
  const byId = new Map(placements.map((placement) => [placement.id, placement]));
  const keysOf = (place: FixPlace): string[] => {
    const placement = byId.get(place.placement);
    const markup = readImageMarkup(placement?.markup ?? '');
    const keys = markup ? [JSON.stringify([place.page, markup])] : [];
    if (placement && (place.source === null || isTakenForOthers(placement)))
      keys.push(JSON.stringify([place.page, placement.candidates]));
    return keys;
  };
  return new Map(
    fixes.map((fix) => {
      if (fix.places.every(({ source }) => source !== null)) return [fix, fix.places];
      const copied = new Set(fix.places.filter(({ source }) => source !== null).flatMap(keysOf));
      const follows = (place: FixPlace) =>
        place.source !== null || keysOf(place).some((key) => copied.has(key));
      return [fix, fix.places.filter(follows)];
    }),
  );
}

const isTakenForOthers = ({ shown }: Placement) =>
  Object.values(shown).some(({ widthElsewhere }) => widthElsewhere !== undefined);
