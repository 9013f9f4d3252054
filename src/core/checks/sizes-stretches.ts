import { chooseSize, environmentOf, mediaQueriesMatch } from '../markup/index.js';
import type { Placement, SlotSweep } from '../run/types.js';
import { narrowest, widest } from '../layout/sweep-plan.js';
import { imageOf, widthCandidates } from './choice.js';
import type { Facts } from './facts.js';
import { group } from './words.js';

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

/** The slot at a viewport width by the pieces of a sweep, CSS px; undefined where there is no box. */
export function sweptSlot({ pieces }: SlotSweep, viewport: number): number | undefined {
  const piece = pieces.find(({ to }) => viewport <= to);
  if (!piece || viewport < piece.from) return piece?.slotFrom;
  const run = piece.to - piece.from;
  return run === 0
    ? piece.slotFrom
    : piece.slotFrom + ((viewport - piece.from) / run) * (piece.slotTo - piece.slotFrom);
}

const step = 4;

/** Says at which viewport widths a claim is off: ` at 624 to 2,560 px`, or nothing where that is not known. */
export function stretchesOff(
  placement: Placement,
  facts: Facts,
  isOff: (both: { claim: number; slot: number; drawn: number }) => boolean,
): string {
  const sweep = facts.sweeps.get(placement.id);
  if (!sweep) return '';
  const stretches: [from: number, to: number][] = [];
  for (let viewport = narrowest; viewport <= widest; viewport += step) {
    const claim = claimAt(placement, viewport);
    const slot = sweptSlot(sweep, viewport);
    if (claim === undefined || slot === undefined || !isOff({ claim, slot, drawn: slot })) continue;
    const last = stretches.at(-1);
    if (last && last[1] === viewport - step) last[1] = viewport;
    else stretches.push([viewport, viewport]);
  }
  if (stretches.length === 0) return '';
  const words = stretches.slice(0, 3).map(([from, to]) => `${group(from)} to ${group(to)}`);
  return ` at viewport widths of ${words.join(', ')}${stretches.length > 3 ? ' and more' : ''} px`;
}
