import type { Change } from '../plan/changes.js';
import type { Placement } from '../run/types.js';
import { bytesInWords, group, pixels } from '../wording/words.js';
import { choiceOn, overstates, sizesToWrite, sourcesWithWidths } from './choice.js';
import { nothingToPaste, type Draft, type Outcomes, type Remedy } from './check.js';
import { bestOutcome, Drafts } from './drafts.js';
import type { Facts } from './facts.js';
import { fillBelowTruth } from './ladder-gaps.js';

export type SizesEvidence = {
  /** What the attribute claims and what is drawn, CSS px. */
  claim: number;
  slot: number;
  /** Device px. */
  fileWidth: number;
  rightWidth: number;
};

/** Findings of both checks that a too large claim can have: with the attribute, and without it. */
export function findOverstated(facts: Facts, hasSizes: boolean): Draft<SizesEvidence>[] {
  const drafts = new Drafts<SizesEvidence>();
  for (const placement of facts.placements) {
    for (const screen of facts.screens) {
      const choice = choiceOn(placement, screen, facts);
      if (!choice || !overstates(choice) || (choice.source.sizes !== null) !== hasSizes) continue;
      if ((choice.right.bytes ?? 0) >= (choice.file.bytes ?? 0)) continue;
      drafts.add(placement, screen.name, {
        claim: choice.claim,
        slot: choice.slot,
        fileWidth: choice.file.width,
        rightWidth: choice.right.width,
      });
    }
  }
  return drafts.list();
}

export function overstatedInWords(draft: Draft<SizesEvidence>, outcomes: Outcomes): string {
  const found = bestOutcome(draft, outcomes);
  if (!found) return '';
  const { claim, slot, fileWidth, rightWidth } = found.evidence;
  const bytes = found.bytesAfter < found.bytes ? ` (${bytesInWords(found.bytes)})` : '';
  const after = found.bytesAfter < found.bytes ? ` (${bytesInWords(found.bytesAfter)})` : '';
  return (
    `on ${found.screen} the slot is ${pixels(slot)} CSS px wide but ${pixels(claim)} px are claimed, so the ${group(fileWidth)} px file is taken` +
    `${bytes} where ${group(found.widthAfter > 0 && after ? found.widthAfter : rightWidth)} px${after} are enough.`
  );
}

export function writeTruthfulSizes({ placement }: Pick<Draft<unknown>, 'placement'>, facts: Facts): Remedy {
  const changes = truthfulSizes(placement, facts);
  if (changes) return { changes: [...changes, ...fillBelowTruth(placement, facts)], notes: [] };
  const reason = facts.sweeps.get(placement.id)?.reason;
  return nothingToPaste(reason ? `No list can be written: ${reason}.` : 'The page could not be swept.');
}

/** The true `sizes` for each list of widths; undefined where none can be said. */
export function truthfulSizes(placement: Placement, facts: Facts): Change[] | undefined {
  const text = sizesToWrite(placement, facts);
  if (text === undefined) return undefined;
  return sourcesWithWidths(placement, facts).map((source) => ({ kind: 'sizes', source, text }));
}
