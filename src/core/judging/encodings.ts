import type { Price } from '../bytes/price-list.js';
import { marginOf, masterFor } from '../plan/changes.js';
import type { SourceState } from '../plan/image-state.js';
import type { Taken } from '../plan/taken.js';
import type { ImageFile, PicturePrice, Placement, Screen } from '../run/types.js';
import type { Draft } from './check.js';
import { Drafts, type BestOutcome } from './drafts.js';
import type { Facts } from './facts.js';

/** What another way of storing the same pixels would be on one screen. */
export type EncodingEvidence = {
  url: string;
  /** Device px. */
  width: number;
  format: string;
  newFormat: string;
  /** Position of the element that offers the file. */
  source: number;
};

/** Bytes of a file that is stored another way: as the plan makes it, or, where nothing can be pasted, by its price. */
export function encodedBytes(found: BestOutcome<EncodingEvidence>, { prices }: Facts): number {
  const { url, newFormat, width } = found.evidence;
  const isPlanned = found.formatAfter === newFormat && found.bytesAfter < found.bytes;
  return isPlanned ? found.bytesAfter : (prices.equalLooks(url, newFormat, width)?.bytes ?? found.bytes);
}

/** What a placement takes on a screen, as the plan has it. */
export interface Encoded {
  placement: Placement;
  screen: Screen;
  taken: Taken;
  /** The source that offers it; undefined where the text does not tell. */
  source: SourceState | undefined;
  /** The file by which it is priced: the best there is of the same picture, which spares a second loss. */
  priced: ImageFile;
  content: PicturePrice['content'] | undefined;
}

/** Findings about how pixels are stored. What cannot be edited is told only where it saves more than a trifle. */
export function findEncodings(
  facts: Facts,
  encodeAs: (encoded: Encoded) => string | undefined,
): Draft<EncodingEvidence>[] {
  const drafts = new Drafts<EncodingEvidence>();
  for (const placement of facts.placements) {
    if (placement.kind === 'preload') continue;
    for (const screen of facts.screens) {
      const encoded = encodedOn(placement, screen, facts);
      const newFormat = encoded && encodeAs(encoded);
      if (!encoded || newFormat === undefined) continue;
      const price = priceAs(encoded, newFormat, facts);
      const { taken, source, priced } = encoded;
      if (!price || price.bytes * marginOf(taken.file, newFormat, priced) >= taken.bytes) continue;
      if (!source && isTrifle(taken.bytes - price.bytes * (1 + price.error), taken.bytes, facts)) continue;
      drafts.add(placement, screen.name, {
        url: placement.downloads[screen.name]?.url ?? taken.file.url,
        width: taken.file.width,
        format: taken.file.format,
        newFormat,
        source: source?.origin ?? 0,
      });
    }
  }
  return drafts.list();
}

export function encodedOn(placement: Placement, screen: Screen, facts: Facts): Encoded | undefined {
  const { plan, files, prices } = facts;
  const taken = plan.taken(placement, screen.name);
  // A crop is made as it is to be stored.
  if (!taken || taken.file.bytes === undefined || taken.file.recipe === 'cropped') return undefined;
  const state = plan.stateOf(placement);
  const source = state?.sources[taken.source];
  const proposal =
    source && source.origin !== null ? plan.proposals(placement).get(source.origin) : undefined;
  const priced = files.get(masterFor(taken.file, proposal, plan.book));
  if (!priced || priced.problem !== undefined) return undefined;
  return { placement, screen, taken, source, priced, content: prices.contentOf(priced.url) };
}

/** What the pixels that are taken weigh in a format at equal looks. */
export const priceAs = (
  { priced, taken }: Pick<Encoded, 'priced' | 'taken'>,
  format: string,
  { prices }: Facts,
): Price | undefined => prices.equalLooks(priced.url, format, taken.file.width);

export function isTrifle(saves: number, of: number, { wishes: { trifles } }: Facts): boolean {
  return saves < trifles.trifleBytes || saves < of * trifles.trifleShare;
}

/** Positions of the elements that a draft speaks of. */
export const sourcesOf = ({ screens }: Draft<EncodingEvidence>): number[] => [
  ...new Set(Object.values(screens).map(({ source }) => source)),
];

/** Stores the files of a draft in another way, each source of it. */
export function reencodings(draft: Draft<EncodingEvidence>, recipe: 'equal-looks' | 'cleaned') {
  const seen = new Set<string>();
  return Object.values(draft.screens).flatMap(({ source, format, newFormat }) => {
    const key = `${source} ${format}`;
    if (seen.has(key)) return [];
    seen.add(key);
    return [{ kind: 'reencode', source, from: format, format: newFormat, recipe } as const];
  });
}
