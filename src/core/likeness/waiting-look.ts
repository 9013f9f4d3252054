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
  const area = clipTo(view, inWholePixels(slot));
  if (areaOf(area) < smallestAwaited) return null;
  if (behind === 'gradient' || behind === 'inlined-picture') return behind;
  const inner = shrink(area, inset);
  const colour = colourAt(
    view,
    Math.floor((inner.left + inner.right) / 2),
    Math.floor((inner.top + inner.bottom) / 2),
  );
  if (shareOf(view, inner, colour) < flatShare) return 'other';
  const around = sidesAround(view, area);
  const isGround = (side: readonly Colour[]) =>
    side.filter((each) => isAlike(each, colour)).length > side.length / 2;
  return around.length > 0 && around.every(isGround) ? 'blank' : 'colour';
}

/** Whether so much of a slot is in view that its look while it waits counts. */
export const isAwaitedInView = (view: Pick<Pixels, 'width' | 'height'>, slot: Slot): boolean =>
  areaOf(clipTo(view, inWholePixels(slot))) >= smallestAwaited;

const inWholePixels = ({ x, y, width, height }: Slot): Area => ({
  left: Math.ceil(x),
  top: Math.ceil(y),
  right: Math.floor(x + width),
  bottom: Math.floor(y + height),
});

const areaOf = ({ left, top, right, bottom }: Area) => Math.max(0, right - left) * Math.max(0, bottom - top);

function clipTo({ width, height }: Pick<Pixels, 'width' | 'height'>, area: Area): Area {
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

/** So many places of each side are looked at: text may stand beside some of them. */
const placesOfSide = 9;

/** Colours a little outside each side, as far as that is in view. */
function sidesAround(view: Pixels, { left, top, right, bottom }: Area): Colour[][] {
  const along = (from: number, to: number) =>
    Array.from({ length: placesOfSide }, (_, index) =>
      Math.floor(from + ((index + 0.5) / placesOfSide) * (to - from)),
    );
  const [across, down] = [along(left, right), along(top, bottom)];
  const sides: [number, number][][] = [
    across.map((x) => [x, top - margin]),
    across.map((x) => [x, bottom + margin]),
    down.map((y) => [left - margin, y]),
    down.map((y) => [right + margin, y]),
  ];
  return sides
    .map((places) =>
      places
        .filter(([x, y]) => x >= 0 && y >= 0 && x < view.width && y < view.height)
        .map(([x, y]) => colourAt(view, x, y)),
    )
    .filter((side) => side.length > 0);
}
