import { choiceOn, editSource, imageOf, overstates, sizesToWrite, sourcesWithWidths } from './choice.js';
import { defineCheck, type Check, type Draft, type Evidence } from './check.js';
import { Drafts, worst } from './drafts.js';
import type { Facts } from './facts.js';
import { existingFile } from './file-state.js';
import { claimEvidence, claimTogether } from './shared-claims.js';
import { sharedDownloads } from './shared-downloads.js';
import { stretchesOff } from './sizes-stretches.js';
import { bytesInWords, group, pixels } from './words.js';

interface SizesEvidence extends Evidence {
  /** What the attribute claims and what is drawn, CSS px. */
  claim: number;
  slot: number;
  fileWidth: number;
  rightWidth: number;
  bytes: number;
  bytesAfter: number;
}

/** Findings of both checks that a too large claim can have: with the attribute, and without it. */
export function findOverstated(facts: Facts, hasSizes: boolean): Draft<SizesEvidence>[] {
  const drafts = new Drafts<SizesEvidence>();
  for (const download of sharedDownloads(facts.placements)) {
    const screen = facts.screens.find(({ name }) => name === download.screen);
    if (!screen) continue;
    const choices = new Map(download.placements.map((each) => [each.id, choiceOn(each, screen, facts)]));
    const claims = claimTogether(download, facts, ({ id }) => {
      const choice = choices.get(id);
      return choice && overstates(choice) ? existingFile(choice.right) : undefined;
    });
    if (claims.length < download.placements.length) continue;
    for (const claim of claims) {
      const { placement } = claim;
      const choice = choices.get(placement.id);
      if (!choice || choice.source.hasSizes !== hasSizes) continue;
      drafts.add(placement, screen.name, {
        ...claimEvidence(claim),
        claim: choice.claim,
        slot: choice.slot,
        fileWidth: choice.file.width,
        rightWidth: choice.right.width,
        bytes: download.bytes,
        bytesAfter: choice.right.bytes,
      });
    }
  }
  return drafts.list();
}

export function overstatedInWords(draft: Draft<SizesEvidence>): string {
  const found = worst(draft, ({ saves }) => saves);
  if (!found) return '';
  const { claim, slot, fileWidth, rightWidth, bytes, bytesAfter } = found.evidence;
  return (
    `on ${found.screen} the slot is ${pixels(slot)} CSS px wide but ${pixels(claim)} px are claimed, so the ${group(fileWidth)} px file is taken ` +
    `(${bytesInWords(bytes)}) where ${group(rightWidth)} px (${bytesInWords(bytesAfter)}) are enough.`
  );
}

export const writeTruthfulSizes: Check<SizesEvidence>['remedy'] = ({ placement }, facts) => {
  const image = imageOf(placement);
  const write = sizesToWrite(placement, facts);
  const reason = facts.sweeps.get(placement.id)?.reason;
  if (!image || write === undefined)
    return {
      edits: [],
      files: [],
      notes: [reason ? `No list can be written: ${reason}.` : 'The page could not be swept.'],
    };
  return {
    edits: sourcesWithWidths(image).map((index) => editSource(image, index, 'sizes', write)),
    files: [],
    notes: [],
  };
};

export const sizesOverstates = defineCheck<SizesEvidence>({
  id: 'sizes-overstates',
  about: {
    title: 'Write the true slot into sizes',
    means:
      'The sizes attribute claims more room than the image gets, so browsers take larger files than they need.',
    evidence:
      'What the attribute claims and what is drawn in CSS px, at which viewport widths they differ, and the two files with their bytes.',
    fix: 'The tag with a sizes list that was fitted to the slot at every width from 320 to 2,560 px.',
    silent:
      'When the claim is off by less than a twentieth or 8 px, and when the truth would make no screen take another file.',
  },
  cut: 'fewer-pixels',
  sureness: 'exact: both files are there, and the choice among them is computed as the browser does',
  words(draft, facts) {
    const stretches = stretchesOff(draft.placement, facts, 'more');
    return `The sizes attribute says too much${stretches}; ${overstatedInWords(draft)}`;
  },
  find: (facts) => findOverstated(facts, true),
  remedy: writeTruthfulSizes,
});
