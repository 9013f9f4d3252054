import type { Pixels } from './index.js';
import type { Slot, WaitingLook } from '../run/types.js';

/** Levels of 255 that two colours may differ by and still look the same side by side. */
const sameColour = 3;
/** Pixels at the edges of a slot belong to borders and rounded corners, CSS px. */
const inset = 3;
/** So far around a slot its surroundings are looked at, CSS px. */
const margin = 6;
/** Slots with less in view than this need nothing while they wait, CSS px². */
const smallestAwaited = 10_000;
/** Share of a slot's pixels that must have its main colour for the slot to be of one colour. */
const flatShare = 0.98;

interface Area {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/**
 * What a visitor sees in a slot while its image is awaited, from a picture of the page at one pixel for each CSS px.
 * @returns null where too little of the slot is in view to tell
 */
export function waitingLook(
  view: Pixels,
  slot: Slot,
  behind: 'nothing' | 'colour' | 'gradient' | 'picture' | 'inlined-picture',
): WaitingLook | null {
  const area = clipTo(view, {
    left: Math.ceil(slot.x),
    top: Math.ceil(slot.y),
    right: Math.floor(slot.x + slot.width),
    bottom: Math.floor(slot.y + slot.height),
  });
  if ((area.right - area.left) * (area.bottom - area.top) < smallestAwaited) return null;
  if (behind === 'gradient' || behind === 'inlined-picture') return behind;
  const inner = shrink(area, inset);
  const colour = colourAt(
    view,
    Math.floor((inner.left + inner.right) / 2),
    Math.floor((inner.top + inner.bottom) / 2),
  );
  if (shareOf(view, inner, colour) < flatShare) return 'other';
  const around = ringAround(view, area);
  return around.length > 0 && around.every((each) => isAlike(each, colour)) ? 'blank' : 'colour';
}

function clipTo({ width, height }: Pixels, area: Area): Area {
  return {
    left: Math.max(0, area.left),
    top: Math.max(0, area.top),
    right: Math.max(0, Math.min(width, area.right)),
    bottom: Math.max(0, Math.min(height, area.bottom)),
  };
}

const shrink = ({ left, top, right, bottom }: Area, by: number): Area => ({
  left: left + by,
  top: top + by,
  right: right - by,
  bottom: bottom - by,
});

type Colour = readonly [red: number, green: number, blue: number];

function colourAt({ data, width, channels }: Pixels, x: number, y: number): Colour {
  const at = (y * width + x) * channels;
  return [data[at] ?? 0, data[at + 1] ?? 0, data[at + 2] ?? 0];
}

const isAlike = (a: Colour, b: Colour) =>
  a.every((level, index) => Math.abs(level - (b[index] ?? 0)) <= sameColour);

/** Every pixel of large slots is looked at, so this makes no list for each. */
function shareOf(
  { data, width, channels }: Pixels,
  { left, top, right, bottom }: Area,
  colour: Colour,
): number {
  let alike = 0;
  for (let y = top; y < bottom; y++)
    for (let x = left, at = (y * width + left) * channels; x < right; x++, at += channels) {
      let same = true;
      for (let channel = 0; channel < 3 && same; channel++)
        same = Math.abs((data[at + channel] ?? 0) - (colour[channel] ?? 0)) <= sameColour;
      if (same) alike++;
    }
  return alike / Math.max(1, (right - left) * (bottom - top));
}

/** Colours a little outside the middle of each side, as far as that is in view. */
function ringAround(view: Pixels, { left, top, right, bottom }: Area): Colour[] {
  const [middleX, middleY] = [Math.floor((left + right) / 2), Math.floor((top + bottom) / 2)];
  const places: [number, number][] = [
    [middleX, top - margin],
    [middleX, bottom + margin],
    [left - margin, middleY],
    [right + margin, middleY],
  ];
  return places
    .filter(([x, y]) => x >= 0 && y >= 0 && x < view.width && y < view.height)
    .map(([x, y]) => colourAt(view, x, y));
}
