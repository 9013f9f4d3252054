import { chooseSize } from '../markup/sizes.js';
import { parseSizes } from '../markup/sizes.js';
import { environmentOf } from '../markup/environment.js';
import { allowedError, fitSize, type AllowedError, type FittedSize } from './fit-size.js';
import { cutIntoPieces, type SlotPiece, type SlotSample } from './slot-pieces.js';

export interface WrittenSizes {
  /** The attribute's value. */
  text: string;
  /** The slot has one width at every viewport width: `1x, 2x` descriptors say it better. CSS px. */
  constant?: number;
  /** Share of the swept widths at which the text is near enough to the slot, 0 to 1. */
  holds: number;
  /** Largest distance between the text and the slot, CSS px. */
  worst: number;
}

/** What `sizes` cannot say, and why. */
export interface NotSayable {
  reason: string;
}

export interface WritingRules {
  /** How the length of an entry is written. */
  write?: (length: string) => string;
  /** 1 CSS px or half a percent if left out. */
  allowed?: AllowedError;
}

/** More entries than this nobody keeps up to date. */
const mostEntries = 12;

/**
 * Writes the shortest source-size list that is near enough to the slot at every swept width.
 * @param samples ascending in viewport width; hidden slots left out
 */
export function writeSizes(
  samples: readonly SlotSample[],
  { write = (length) => length, allowed = allowedError }: WritingRules = {},
): WrittenSizes | NotSayable {
  const shown = samples.filter(({ slot }) => slot > 0);
  if (shown.length === 0) return { reason: 'the image has no box at any width' };
  const groups = shortestGrouping(cutIntoPieces(shown), allowed);
  if (!groups) return { reason: 'the slot does not follow the width of the viewport in straight lines' };
  if (groups.length > mostEntries)
    return { reason: `it would take ${groups.length} entries to follow the slot` };
  const text = groups
    .map(({ size, to }, index) =>
      index === groups.length - 1 ? write(size.text) : `(max-width: ${to}px) ${write(size.text)}`,
    )
    .join(', ');
  const checked = checkSizes(text, shown, allowed);
  const [only] = groups;
  return {
    text,
    ...checked,
    ...(groups.length === 1 && only?.size.slope === 0 ? { constant: only.size.offset } : {}),
  };
}

export interface SizesCheck {
  holds: number;
  worst: number;
}

/** Evaluates a list at every sample, as the browser would. */
export function checkSizes(
  text: string,
  samples: readonly SlotSample[],
  allowed: AllowedError = allowedError,
): SizesCheck {
  const list = parseSizes(text);
  let near = 0;
  let worst = 0;
  for (const { viewport, slot } of samples) {
    const environment = environmentOf({ width: viewport, height: 900, density: 1, touch: false });
    const error = Math.abs(chooseSize(list, environment, undefined).size - slot);
    if (error <= allowed(slot)) near++;
    worst = Math.max(worst, error);
  }
  return { holds: samples.length === 0 ? 0 : near / samples.length, worst };
}

interface Group {
  size: FittedSize;
  /** Last viewport width that the group speaks for, CSS px. */
  to: number;
}

/**
 * Joins neighbouring pieces that one length can serve, so that the whole text is shortest: dynamic programming over the
 * pieces, where a group costs the characters it takes to write.
 */
function shortestGrouping(pieces: readonly SlotPiece[], allowed: AllowedError): Group[] | undefined {
  const best: ({ cost: number; groups: Group[] } | undefined)[] = [{ cost: 0, groups: [] }];
  for (let end = 1; end <= pieces.length; end++) {
    let found: { cost: number; groups: Group[] } | undefined;
    for (let start = end - 1; start >= 0; start--) {
      const before = best[start];
      const stretch = pieces.slice(start, end);
      const size = fitSize(
        stretch.flatMap(({ samples }) => samples),
        allowed,
      );
      // A stretch that no length can serve cannot be served with more pieces in it either.
      if (!size) break;
      if (!before) continue;
      const to = Math.floor(stretch.at(-1)?.to ?? 0);
      const last = end === pieces.length;
      const cost = before.cost + size.text.length + (last ? 0 : `(max-width: ${to}px) , `.length);
      if (!found || cost < found.cost) found = { cost, groups: [...before.groups, { size, to }] };
    }
    best.push(found);
  }
  return best.at(-1)?.groups;
}
