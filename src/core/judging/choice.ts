import {
  chooseDensity,
  orderByDensity,
  parseImage,
  readImageMarkup,
  type ImageCandidate,
  type ParsedImage,
  type ParsedSource,
} from '../markup/index.js';
import { resolveAddress } from '../plan/addresses.js';
import type { PlannedFile } from '../plan/file-book.js';
import type { SourceState } from '../plan/image-state.js';
import { Recent } from '../plan/recent.js';
import type { ImageFile, Placement, Screen } from '../run/types.js';
import type { Facts } from './facts.js';

/** What a placement makes one screen take, as the plan has it, and what it would take if `sizes` said the truth. */
export interface Choice {
  source: SourceState;
  /** What `sizes` claims, CSS px. */
  claim: number;
  /** The slot, CSS px. */
  slot: number;
  /** The whole picture as drawn, which `object-fit: cover` makes wider than the slot, CSS px. */
  drawn: number;
  file: PlannedFile;
  right: PlannedFile;
}

/** The parsed markup of an image element as the file has it; undefined for other placements. */
export function imageOf(placement: Placement): ParsedImage | undefined {
  if (placement.kind !== 'img' && placement.kind !== 'picture') return undefined;
  return parsed.remember(placement.markup, () => {
    const markup = readImageMarkup(placement.markup);
    return markup && parseImage(markup);
  });
}

/** Every check asks for every screen, and a claim is asked for at hundreds of widths, all of them in a row. */
const parsed = new Recent<string, ParsedImage | undefined>(100);

/** The file of a candidate as the markup writes it. */
export const fileOf = (
  written: string,
  { base }: Pick<Placement, 'base'>,
  { files }: Pick<Facts, 'files'>,
): ImageFile | undefined => files.get(resolveAddress(written, base));

export const widthCandidates = (source: ParsedSource): ImageCandidate[] =>
  source.srcset?.candidates.filter(({ width }) => width !== undefined) ?? [];

/**
 * @param stage of the plan; as far as it has come if left out
 * @returns undefined where the pick has no width descriptor, or nothing is drawn, or a file is not known
 */
export function choiceOn(
  placement: Placement,
  screen: Screen,
  { plan }: Facts,
  stage?: number,
): Choice | undefined {
  const drawn = placement.shown[screen.name]?.drawnWidth ?? 0;
  const slot = placement.slots[screen.name];
  const taken = plan.taken(placement, screen.name, stage);
  const source = taken && plan.stateOf(placement, stage)?.sources[taken.source];
  if (!source || taken.claim === undefined || !slot || drawn < 1) return undefined;
  const right = truthfulFile(source, drawn, screen.density);
  if (!right || taken.file.bytes === undefined || right.bytes === undefined) return undefined;
  return { source, claim: taken.claim, slot: slot.width, drawn, file: taken.file, right };
}

/** The file of those that a source offers which would be taken if `sizes` said the width that is drawn, CSS px. */
export function truthfulFile(
  { rungs }: SourceState,
  drawn: number,
  density: number,
): PlannedFile | undefined {
  const candidates = rungs.flatMap(({ file, descriptor }) =>
    'width' in descriptor ? [{ url: file.url, density: Math.fround(descriptor.width / drawn), file }] : [],
  );
  const ordered = orderByDensity(candidates);
  return ordered[chooseDensity(ordered, density)]?.file;
}

interface Claimed {
  claim: number;
  slot: number;
  drawn: number;
}

/**
 * Off by more than this is worth a word: a twentieth and 8 CSS px. Where a picture is cropped, both the slot and the width at
 * which it is drawn count as the truth.
 */
export const overstates = ({ claim, slot, drawn }: Claimed) => claim > Math.max(slot, drawn) * 1.05 + 8;
export const understates = ({ claim, slot, drawn }: Claimed) => claim < Math.min(slot, drawn) * 0.95 - 8;

/** The `sizes` to write for a placement, from the sweep; undefined where none can be said. */
export function sizesToWrite({ id }: Placement, { sweeps }: Pick<Facts, 'sweeps'>): string | undefined {
  return sweeps.get(id)?.write ?? undefined;
}

/** Positions of the elements that have width descriptors. */
export function sourcesWithWidths(placement: Placement, { plan }: Facts): number[] {
  return (plan.stateOf(placement)?.sources ?? []).flatMap(({ origin, rungs }) =>
    origin !== null && rungs.some(({ descriptor }) => 'width' in descriptor) ? [origin] : [],
  );
}
