import { chooseSize, environmentOf, mediaQueriesMatch } from '../markup/index.js';
import type { Placement, SlotSweep } from '../run/types.js';
import { narrowest, widest } from '../layout/sweep-plan.js';
import { imageOf, overstates, understates, widthCandidates } from './choice.js';
import type { Facts } from './facts.js';
import { group } from '../wording/words.js';

/** Claims are compared at every so many CSS px of the viewport's width. */
const step = 4;

/** The claim of a placement's markup at a viewport width (laptop height, density 1), CSS px; undefined without widths. */
export function claimAt(placement: Placement, viewport: number): number | undefined {
  const image = imageOf(placement);
  const environment = environmentOf({ width: viewport, height: 900, density: 1, touch: false });
  const source = image?.sources.find(
    (each) =>
      each.element === 'img' || (each.supported && each.srcset && mediaQueriesMatch(each.media, environment)),
  );
  return source && widthCandidates(source).length > 0
    ? chooseSize(source.sizes, environment, undefined).size
    : undefined;
}

/** The one width that a placement's markup claims at every viewport width, CSS px; undefined where there are several or none. */
export function onlyClaim(placement: Placement): number | undefined {
  const only = claimAt(placement, narrowest);
  if (only === undefined) return undefined;
  for (let viewport = narrowest; viewport <= widest; viewport += step)
    if (claimAt(placement, viewport) !== only) return undefined;
  return only;
}

/** The slot at a viewport width by the pieces of a sweep, CSS px; undefined where there is no box. */
export function sweptSlot({ pieces }: SlotSweep, viewport: number): number | undefined {
  const piece = pieces.find(({ to }) => viewport <= to);
  if (!piece || viewport < piece.from) return piece?.slotFrom;
  const run = piece.to - piece.from;
  return run === 0
    ? piece.slotFrom
    : piece.slotFrom + ((viewport - piece.from) / run) * (piece.slotTo - piece.slotFrom);
}

/** A stretch of viewport widths at which a claim is off. CSS px. */
export interface ClaimStretch {
  from: number;
  to: number;
  /** `more` than the slot, or `less`. */
  says: 'more' | 'less';
  /** Where the claim is farthest off, and both widths there. */
  worstAt: number;
  claim: number;
  slot: number;
}

/** The viewport widths from 320 to 2,560 px at which the present claim is off by more than a twentieth and 8 px. */
export function claimStretches(placement: Placement, sweep: SlotSweep): ClaimStretch[] {
  const stretches: ClaimStretch[] = [];
  for (let viewport = narrowest; viewport <= widest; viewport += step) {
    const claim = claimAt(placement, viewport);
    const slot = sweptSlot(sweep, viewport);
    if (claim === undefined || slot === undefined) continue;
    const both = { claim, slot, drawn: slot };
    const says = overstates(both) ? 'more' : understates(both) ? 'less' : undefined;
    if (!says) continue;
    const last = stretches.at(-1);
    if (last?.says !== says || last.to !== viewport - step) {
      stretches.push({ from: viewport, to: viewport, says, worstAt: viewport, claim, slot });
      continue;
    }
    last.to = viewport;
    if (Math.abs(claim - slot) > Math.abs(last.claim - last.slot))
      Object.assign(last, { worstAt: viewport, claim, slot });
  }
  return stretches;
}

/** Says at which viewport widths a claim is off: ` at viewport widths of 624 to 2,560 px`; nothing where that is not known. */
export function stretchesOff(placement: Placement, facts: Facts, says: ClaimStretch['says']): string {
  const sweep = facts.sweeps.get(placement.id);
  const stretches = sweep ? claimStretches(placement, sweep).filter((stretch) => stretch.says === says) : [];
  if (stretches.length === 0) return '';
  const words = stretches.slice(0, 3).map(({ from, to }) => `${group(from)} to ${group(to)}`);
  return ` at viewport widths of ${words.join(', ')}${stretches.length > 3 ? ' and more' : ''} px`;
}
