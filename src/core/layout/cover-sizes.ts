import { checkSizes, writeSizes, type NotSayable, type WrittenSizes } from './write-sizes.js';
import type { SlotSample } from './slot-pieces.js';

/** How high a slot is in two windows of different height, CSS px, and the shape of the picture that covers it. */
export interface CoveredHeight {
  atUsual: number;
  atOther: number;
  /** Width of the picture over its height. */
  ratio: number;
}

/** Heights of the two windows, CSS px. */
export interface WindowHeights {
  usual: number;
  other: number;
}

const tidy = (value: number) => String(Number(value.toFixed(1)));

/**
 * The `sizes` of a picture that covers a slot whose height follows the window's: it is drawn as wide as the slot, or as wide as the slot's
 * height asks for, whichever is more, as in `max(100vw, 90vh)`. CSS Values Level 4, section 10.1 "max()".
 * @param slots the slot's width, ascending in viewport width, in windows of the usual height
 * @param drawn the width at which the picture is drawn there
 * @param heights at several viewport widths
 */
export function writeCoverSizes(
  slots: readonly SlotSample[],
  drawn: readonly SlotSample[],
  heights: readonly CoveredHeight[],
  windows: WindowHeights,
): WrittenSizes | NotSayable {
  const [first] = heights;
  const alike = heights.every(
    ({ atUsual, atOther, ratio }) =>
      first &&
      Math.abs(atUsual - first.atUsual) <= 1 &&
      Math.abs(atOther - first.atOther) <= 1 &&
      Math.abs(ratio / first.ratio - 1) < 0.01,
  );
  const reason = 'the picture covers a slot whose height follows the window in no simple way';
  if (!first || !alike) return { reason };
  const slope = (first.atUsual - first.atOther) / (windows.usual - windows.other);
  const offset = first.atUsual - slope * windows.usual;
  const share = tidy(slope * first.ratio * 100);
  const rest = Math.round(offset * first.ratio);
  const byHeight = rest === 0 ? `${share}vh` : `${share}vh ${rest < 0 ? '-' : '+'} ${Math.abs(rest)}px`;
  const written = writeSizes(slots, { write: (length) => `max(${length}, ${byHeight})` });
  if ('reason' in written) return written;
  const { text } = written;
  const checked = checkSizes(text, drawn);
  return checked.holds > 0.95 ? { text, ...checked } : { reason };
}
