import {
  candidateUrls,
  environmentOf,
  parseImage,
  parseSizes,
  pickImage,
  readImageMarkup,
  type Environment,
  type ImageCandidate,
  type ParsedImage,
  type ParsedSource,
  type Pick,
} from '../markup/index.js';
import type { TagEdit } from '../fixes/tag.js';
import type { ImageFile, Placement, Screen } from '../run/types.js';
import type { Facts } from './facts.js';

/** What a placement's markup makes one screen take, and what it would take if `sizes` said the truth. */
export interface Choice {
  image: ParsedImage;
  pick: Pick;
  /** The element that the pick comes from. */
  source: ParsedSource;
  /** What `sizes` claims, CSS px. */
  claim: number;
  /** The slot, CSS px. */
  slot: number;
  /** The whole picture as drawn, which `object-fit: cover` makes wider than the slot, CSS px. */
  drawn: number;
  file: ImageFile;
  right: ImageFile;
}

/** The parsed markup of an image element as the file has it; undefined for other placements. */
export function imageOf(placement: Placement): ParsedImage | undefined {
  if (placement.kind !== 'img' && placement.kind !== 'picture') return undefined;
  if (!parsed.has(placement)) {
    const markup = readImageMarkup(placement.markup);
    parsed.set(placement, markup && parseImage(markup));
  }
  return parsed.get(placement);
}

/** Every check asks for every screen, and a claim is asked for at hundreds of widths: each placement is parsed once. */
const parsed = new WeakMap<Placement, ParsedImage | undefined>();

/** The file of a candidate as the markup writes it. */
export function fileOf(
  written: string,
  image: ParsedImage,
  placement: Placement,
  facts: Facts,
): ImageFile | undefined {
  const url = placement.candidates[candidateUrls(image).indexOf(written)];
  return url === undefined ? undefined : facts.files.get(url);
}

export const widthCandidates = (source: ParsedSource): ImageCandidate[] =>
  source.srcset?.candidates.filter(({ width }) => width !== undefined) ?? [];

/** Undefined where the pick has no width descriptor, or nothing is drawn, or a file is not known. */
export function choiceOn(placement: Placement, screen: Screen, facts: Facts): Choice | undefined {
  const image = imageOf(placement);
  const drawn = placement.shown[screen.name]?.drawnWidth ?? 0;
  if (!image || drawn < 1 || !placement.slots[screen.name]) return undefined;
  const environment = environmentOf(screen);
  const slot = placement.slots[screen.name]?.width ?? 0;
  const pick = pickImage(image, environment, { autoWidth: slot });
  const source = pick && image.sources[pick.source];
  if (!pick || !source || pick.sourceSize === undefined) return undefined;
  const file = fileOf(pick.url, image, placement, facts);
  const right = truthfulFile(image, placement, environment, drawn, facts);
  if (!file || !right || file.problem !== undefined || right.problem !== undefined) return undefined;
  return { image, pick, source, claim: pick.sourceSize, slot, drawn, file, right };
}

/** The file of those offered that would be taken if `sizes` said the width that is drawn, CSS px. */
export function truthfulFile(
  image: ParsedImage,
  placement: Placement,
  environment: Environment,
  drawn: number,
  facts: Facts,
): ImageFile | undefined {
  const pick = pickImage(withSizes(image, `${drawn}px`), environment);
  return pick && fileOf(pick.url, image, placement, facts);
}

function withSizes(image: ParsedImage, text: string): ParsedImage {
  const sizes = parseSizes(text);
  return { ...image, sources: image.sources.map((source) => ({ ...source, sizes, hasSizes: true })) };
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

/** Sets an attribute on the element that a pick comes from: a `source` by its index, else the `img`. */
export function editSource(image: ParsedImage, source: number, name: string, value: string): TagEdit {
  return image.sources[source]?.element === 'source'
    ? { kind: 'set-on-source', index: source, name, value }
    : { kind: 'set', name, value };
}

/** The `sizes` to write for a placement, from the sweep; undefined where none can be said. */
export function sizesToWrite({ id }: Placement, facts: Facts): string | undefined {
  return facts.sweeps.get(id)?.write ?? undefined;
}

/** Indexes of the elements that have width descriptors. */
export function sourcesWithWidths(image: ParsedImage): number[] {
  return image.sources.flatMap((source, index) => (widthCandidates(source).length > 0 ? [index] : []));
}
