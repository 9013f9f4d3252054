import { pageOf } from '../run/placement-id.js';
import type { Finding, Fix, Placement, Run } from '../run/types.js';

export interface FindingAt {
  check: string;
  page: string;
  says: string;
}

/** Of the findings that were to be mended, how many went and stayed; and those that were not there before. */
export interface ComparedFindings {
  went: number;
  stayed: number;
  /** Those that stayed, as they were found. */
  stillThere: FindingAt[];
  appeared: FindingAt[];
}

/** Findings are the same where check, page and place in the layout are: sources and addresses change when they are mended. */
export function compareFindings(
  before: Readonly<Run>,
  after: Readonly<Run>,
  fixes: readonly Fix[],
): ComparedFindings {
  const mended = new Set(fixes.flatMap(({ findings }) => findings));
  const old = keysByFinding(before);
  const now = keysByFinding(after);
  const wasFound = new Set(old.flat());
  const isFound = new Set(now.flat());
  const stillThere = before.findings.filter(
    (_, index) => mended.has(index) && old[index]?.some((key) => isFound.has(key)),
  );
  const appeared = after.findings.filter((_, index) => !now[index]?.some((key) => wasFound.has(key)));
  const toBeMended = before.findings.filter((_, index) => mended.has(index)).length;
  return {
    went: toBeMended - stillThere.length,
    stayed: stillThere.length,
    stillThere: stillThere.map(placed),
    appeared: appeared.map(placed),
  };
}

const placed = ({ check, placement, says }: Finding): FindingAt => ({
  check,
  page: pageOf(placement),
  says,
});

/** Blur is told of a single file, and of a ladder when it has become one. */
const sameFault: Readonly<Record<string, string>> = { 'ladder-too-short': 'upscaled' };

/** For each finding of a run by what it is known in another one: one of these is enough. */
function keysByFinding({ findings, placements }: Readonly<Run>): string[][] {
  const byId = new Map(placements.map((placement) => [placement.id, placement]));
  return findings.map(({ check, placement }) =>
    placesOf(byId.get(placement)).map((place) => `${sameFault[check] ?? check} ${place}`),
  );
}

function placesOf(placement: Placement | undefined): string[] {
  if (!placement) return [''];
  const slots = Object.entries(placement.slots).map(([screen, slot]) => [
    screen,
    // What lies above may have got its room: only across do boxes stay where they are.
    slot && [slot.x, slot.width].map((side) => Math.round(side / 2)),
  ]);
  const kind = placement.kind === 'picture' ? 'img' : placement.kind;
  const known = [placement.page, kind, placement.alt];
  // A rule of a style may be several afterwards, each for some of the screens; and one box may show images by several properties.
  const { style } = placement;
  if (kind === 'css-image')
    return slots.map((slot) => JSON.stringify([...known, style?.property, style?.layer, slot]));
  return [JSON.stringify([...known, slots])];
}
