import { sharpDensity, type Sharpness } from '../layout/sharpness.js';
import { viewOf } from '../layout/view-of.js';
import { toDecimals } from '../wording/rounding.js';
import type { Facts } from './facts.js';
import { fileOf, imageOf } from './choice.js';
import { sweptSlot } from './sizes-stretches.js';
import { neededWidth } from '../layout/needed-width.js';
import { environmentOf, explainPick, type ExplainedPick } from '../markup/index.js';
import type { ImageFile, LedgerEntry, Placement, Screen, SlotSweep } from '../run/types.js';
import { asItIs } from '../plan/plan.js';
import { masterOf } from '../plan/proposal.js';

/** What one screen takes for a placement, and why. */
export interface WhyRow {
  screen: Screen;
  /** True for a screen that was visited, false for one whose slot comes from the sweep. */
  visited: boolean;
  /** CSS px; undefined where the image has no box. */
  slot: number | undefined;
  explained: ExplainedPick | undefined;
  /** Address of the pick from the site's root. */
  url: string | undefined;
  /** What the browser took; undefined where it was not visited. */
  observed: string | null | undefined;
  file: ImageFile | undefined;
  /** Device px. */
  needed: number | undefined;
  /** What it takes once all fixes are made; undefined where that is the same file. */
  instead: { width: number; bytes: number } | undefined;
}

export interface WhyReport {
  placement: Placement;
  rows: WhyRow[];
  /** Dropped candidates and other faults of the markup, in words. */
  faults: string[];
  /** Where the bytes of its downloads go, a screen each. */
  ledger: LedgerEntry[];
}

/** What an explanation is made from: an audit that has just been made, or a saved run. */
export interface WhyFacts {
  screens: readonly Screen[];
  sweeps: ReadonlyMap<string, SlotSweep>;
  files: ReadonlyMap<string, ImageFile>;
  sharpness: Sharpness;
  /**
   * What a screen takes once all fixes are made, where that is another file.
   * @param slot CSS px; undefined where the image has no box
   */
  insteadOf(
    placement: Placement,
    screen: Screen,
    visited: boolean,
    slot: number | undefined,
  ): { width: number; bytes: number } | undefined;
}

/** Of an audit that has just been made. */
export const whyFactsOf = (facts: Facts): WhyFacts => ({
  screens: facts.screens,
  sweeps: facts.sweeps,
  files: facts.files,
  sharpness: facts.wishes.sharpness,
  insteadOf: (placement, screen, visited, slot) => insteadOf(placement, screen, visited, slot, facts),
});

/**
 * Explains a placement on the screens that were visited, and on further ones by the sweep.
 * @param more screens that were not visited; their slot is taken from the sweep
 */
export function explainPlacement(
  placement: Placement,
  facts: WhyFacts,
  ledger: readonly LedgerEntry[],
  more: readonly Screen[],
): WhyReport {
  const visited = facts.screens.map((screen) =>
    rowFor(placement, screen, true, placement.slots[screen.name]?.width, facts),
  );
  const sweep = facts.sweeps.get(placement.id);
  const others = more.map((screen) =>
    rowFor(placement, screen, false, sweep && tenth(sweptSlot(sweep, screen.width)), facts),
  );
  return {
    placement,
    rows: [...visited, ...others],
    faults: faultsOf(placement),
    ledger: ledger.filter(({ placements }) => placements.includes(placement.id)),
  };
}

/** Between the ends of a stretch a slot is known to a tenth of a px. */
const tenth = (slot: number | undefined) => (slot === undefined ? undefined : toDecimals(slot, 1));

function rowFor(
  placement: Placement,
  screen: Screen,
  visited: boolean,
  slot: number | undefined,
  facts: WhyFacts,
): WhyRow {
  const image = imageOf(placement);
  const explained = image && explainPick(image, environmentOf(viewOf(placement, screen)), slot);
  const file = image && explained && fileOf(explained.pick.url, placement, facts);
  const observed = visited ? (placement.picks[screen.name]?.observed ?? null) : undefined;
  const url =
    file?.url ?? (visited ? (placement.picks[screen.name]?.predicted ?? undefined) : explained?.pick.url);
  const shown = file ?? (url === undefined ? undefined : facts.files.get(url));
  const drawn = visited ? placement.shown[screen.name]?.drawnWidth : slot;
  const delivered = Object.values(placement.downloads).map((download) => download.url);
  const largest = masterOf(placement.candidates, delivered, facts.files)?.width ?? shown?.width ?? 0;
  const needed =
    drawn === undefined || drawn === 0
      ? undefined
      : neededWidth(drawn, sharpDensity(screen, facts.sharpness), largest);
  return {
    screen,
    visited,
    slot: slot === 0 ? undefined : slot,
    explained,
    url,
    observed,
    file: shown,
    needed,
    instead: facts.insteadOf(placement, screen, visited, slot),
  };
}

/** What the screen takes once all fixes are made, where that is another file. */
function insteadOf(
  placement: Placement,
  screen: Screen,
  visited: boolean,
  slot: number | undefined,
  { plan }: Facts,
): { width: number; bytes: number } | undefined {
  const [before, after] = visited
    ? [plan.taken(placement, screen.name, asItIs)?.file, plan.taken(placement, screen.name)?.file]
    : [plan.fileOn(placement, screen, slot, asItIs), plan.fileOn(placement, screen, slot)];
  if (!after || after === before || after.bytes === undefined) return undefined;
  return { width: after.width, bytes: after.bytes };
}

function faultsOf(placement: Placement): string[] {
  const image = imageOf(placement);
  return (image?.sources ?? []).flatMap(({ srcset, sizes }) => [
    ...(srcset?.errors ?? []).map(({ url, why }) => `the candidate ${url} of srcset is dropped: ${why}`),
    ...sizes.errors.map(({ text, why }) => `the entry "${text}" of sizes is passed over: ${why}`),
  ]);
}
