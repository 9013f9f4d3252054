import { applyChange } from '../plan/changes.js';
import type { Placement } from '../run/types.js';
import type { Trial } from './decide.js';
import type { Facts } from './facts.js';

/** Without a box on any screen: a menu that is closed, a dialog. */
const isHidden = ({ slots }: Placement) =>
  Object.values(slots).every((slot) => !slot || slot.width === 0 || slot.height === 0);

/**
 * Hidden images that hold a file which the trials would set free: they are made lazy, so that it is fetched only when they are opened.
 * They look as before then, whatever they look like.
 */
export function companions(trials: readonly Trial[], facts: Facts): Trial[] {
  const { plan, screens, placements } = facts;
  const tried = new Set(trials.map(({ placement }) => placement.id));
  const keysOf = (placement: Placement) =>
    screens.flatMap(({ name }) => {
      const url = plan.taken(placement, name)?.file.url;
      return url === undefined ? [] : [JSON.stringify([placement.page, name, url])];
    });
  const wanted = new Set(trials.flatMap(({ placement }) => keysOf(placement)));
  return placements.flatMap((placement): Trial[] => {
    const { kind, id } = placement;
    if ((kind !== 'img' && kind !== 'picture') || tried.has(id) || !isHidden(placement)) return [];
    if (!keysOf(placement).some((key) => wanted.has(key))) return [];
    const state = plan.stateOf(placement);
    const lazy =
      state &&
      applyChange(
        state,
        { kind: 'edit', edits: [{ kind: 'set', name: 'loading', value: 'lazy' }] },
        { book: plan.book, proposals: plan.proposals(placement) },
      );
    return lazy ? [{ placement, state: lazy }] : [];
  });
}
