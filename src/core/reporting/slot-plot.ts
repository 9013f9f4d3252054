import { narrowest, widest } from '../layout/sweep-plan.js';
import { sweptSlot } from '../judging/sizes-stretches.js';
import { readText, type ReadText } from '../plan/pick-text.js';
import type { Fix, FixPlace, Placement, Run, Screen, SlotSweep } from '../run/types.js';

/** One point of a curve: viewport width and value. */
export interface CurvePoint {
  at: number;
  value: number;
}

/** What an image needs, says and takes over the width of the viewport, at one pixel density; all in device px. */
export interface SlotCurves {
  density: number;
  /** Slot × density. */
  needed: CurvePoint[];
  /** What `sizes` claims × density, as it is and as the fix writes it; empty where nothing is claimed. */
  claimed: CurvePoint[];
  proposed: CurvePoint[];
  /** Width of the file that is taken, before and after. */
  takes: CurvePoint[];
  taken: CurvePoint[];
}

export interface SlotPlot {
  placement: string;
  curves: SlotCurves[];
}

const densities = [1, 2, 3];
const step = 8;

/**
 * The curves of the image that a fix shows first, where its slot was swept and the fix is one to paste into its tag.
 * @returns undefined where there is nothing to plot
 */
export function slotPlot(fix: Fix, run: RunIndex): SlotPlot | undefined {
  for (const { example, kind } of fix.edits) {
    const sweep = run.sweeps.get(example);
    const placement = run.placements.get(example);
    const place = fix.places.find((each) => each.placement === example);
    if (kind !== 'tag' || !sweep || !placement || !place || sweep.pieces.length === 0) continue;
    if (placement.kind !== 'img' && placement.kind !== 'picture') continue;
    const curves = densities.map((density) => curvesAt({ placement, place, sweep, fix, run }, density));
    return { placement: example, curves };
  }
  return undefined;
}

/** A run whose parts are found by name. */
export interface RunIndex {
  placements: ReadonlyMap<string, Placement>;
  sweeps: ReadonlyMap<string, SlotSweep>;
  /** Width of each file, px. */
  widths: ReadonlyMap<string, number>;
}

export function indexRun({ placements, sweeps, files }: Readonly<Run>): RunIndex {
  return {
    placements: new Map(placements.map((each) => [each.id, each])),
    sweeps: new Map(sweeps.map((each) => [each.placement, each])),
    widths: new Map(files.map(({ url, width }) => [url, width])),
  };
}

interface Subject {
  placement: Placement;
  place: FixPlace;
  sweep: SlotSweep;
  fix: Fix;
  run: RunIndex;
}

function curvesAt({ placement, place, sweep, fix, run }: Subject, density: number): SlotCurves {
  const made = new Map(fix.files.map(({ name, width }) => [name, width]));
  const widthOf = (url: string) => made.get(url) ?? run.widths.get(url);
  const before = readText(placement.markup, { kind: 'tag' }, placement.base);
  const after = place.after === '' ? undefined : readText(place.after, { kind: 'tag' }, placement.base);
  const curves: SlotCurves = { density, needed: [], claimed: [], proposed: [], takes: [], taken: [] };
  for (let viewport = narrowest; viewport <= widest; viewport += step) {
    const slot = sweptSlot(sweep, viewport);
    if (slot === undefined || slot === 0) continue;
    curves.needed.push({ at: viewport, value: slot * density });
    addPick(before, curves.claimed, curves.takes);
    if (after) addPick(after, curves.proposed, curves.taken);

    function addPick(text: ReadText, claims: CurvePoint[], files: CurvePoint[]): void {
      const picked = text(screenAt(viewport, density), slot);
      const width = picked && widthOf(picked.url);
      if (picked?.claim !== undefined) claims.push({ at: viewport, value: picked.claim * density });
      if (width !== undefined && width > 0) files.push({ at: viewport, value: width });
    }
  }
  return {
    density,
    needed: corners(curves.needed),
    claimed: corners(curves.claimed),
    proposed: corners(curves.proposed),
    takes: corners(curves.takes),
    taken: corners(curves.taken),
  };
}

/** As high as a laptop’s window. */
const screenAt = (width: number, density: number): Screen => ({
  name: '',
  width,
  height: 900,
  density,
  touch: false,
  share: 0,
});

/** Without the points that lie on the line between their neighbours. */
function corners(points: readonly CurvePoint[]): CurvePoint[] {
  return points.filter((point, index) => {
    const [before, after] = [points[index - 1], points[index + 1]];
    if (!before || !after) return true;
    const onLine =
      before.value + ((point.at - before.at) / (after.at - before.at)) * (after.value - before.value);
    return Math.abs(onLine - point.value) > 0.01;
  });
}
