import type { Placement, Screen } from '../run/types.js';

/** Drawn this much wider than its slot, a picture needs more pixels than the slot's width tells. */
const cropped = 1.05;

/** Whether `object-fit` draws the picture clearly wider than its slot on any screen. */
export function isCropped({ slots, shown }: Placement): boolean {
  return Object.entries(slots).some(
    ([name, slot]) => slot && (shown[name]?.drawnWidth ?? 0) > slot.width * cropped,
  );
}

/**
 * A `sizes` text from the screens alone, narrowest first: right on those, a guess between them. Of cropped pictures it gives the
 * width at which the whole picture is drawn.
 */
export function sizesFromScreens(placement: Placement, screens: readonly Screen[]): string {
  const measured = screens
    .flatMap(({ name, width }) => {
      const slot = placement.slots[name];
      const drawn = placement.shown[name]?.drawnWidth ?? 0;
      return slot && slot.width > 0 ? [{ width, slot: Math.ceil(Math.max(slot.width, drawn) - 0.05) }] : [];
    })
    .sort((a, b) => a.width - b.width);
  const entries = measured.map(({ width, slot }, index) => {
    const share = Math.ceil((slot / width) * 1000) / 10;
    return index === measured.length - 1 ? `${slot}px` : `(max-width: ${width}px) ${share}vw`;
  });
  return entries.join(', ');
}
