import { pageOf } from '../run/placement-id.js';
import type { Fix, Placement, Run } from '../run/types.js';

export interface FindingAt {
  check: string;
  page: string;
  says: string;
}

/** Of the findings that were to be mended, how many went and stayed; and those that were not there before. */
export interface ComparedFindings {
  went: number;
  stayed: number;
  appeared: FindingAt[];
}

/** Findings are the same where check, page and place in the layout are: sources and addresses change when they are mended. */
export function compareFindings(
  before: Readonly<Run>,
  after: Readonly<Run>,
  fixes: readonly Fix[],
): ComparedFindings {
  const mended = new Set(fixes.flatMap(({ findings }) => findings));
  const old = countedKeys(before);
  const now = countedKeys(after);
  let [went, stayed] = [0, 0];
  before.findings.forEach((_, index) => {
    if (!mended.has(index)) return;
    if (now.keys.has(old.list[index] ?? '')) stayed++;
    else went++;
  });
  const appeared = after.findings.flatMap(({ check, placement, says }, index): FindingAt[] =>
    old.keys.has(now.list[index] ?? '') ? [] : [{ check, page: pageOf(placement), says }],
  );
  return { went, stayed, appeared };
}

/** Blur is told of a single file, and of a ladder when it has become one. */
const sameFault: Readonly<Record<string, string>> = { 'ladder-too-short': 'upscaled' };

function countedKeys({ findings, placements }: Readonly<Run>): { list: string[]; keys: Set<string> } {
  const byId = new Map(placements.map((placement) => [placement.id, placement]));
  const list = findings.map(
    ({ check, placement }) => `${sameFault[check] ?? check} ${keyOf(byId.get(placement))}`,
  );
  return { list, keys: new Set(list) };
}

function keyOf(placement: Placement | undefined): string {
  if (!placement) return '';
  const slots = Object.entries(placement.slots).map(([screen, slot]) => [
    screen,
    // What lies above may have got its room: only across do boxes stay where they are.
    slot && [slot.x, slot.width].map((side) => Math.round(side / 2)),
  ]);
  const kind = placement.kind === 'picture' ? 'img' : placement.kind;
  return JSON.stringify([placement.page, kind, placement.alt, slots]);
}
