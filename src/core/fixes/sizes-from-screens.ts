import type { Placement, Screen } from '../run/types.js';

/** A `sizes` text from the slots of the screens alone, narrowest first: right on those, a guess between them. */
export function sizesFromScreens(placement: Placement, screens: readonly Screen[]): string {
  const measured = screens
    .flatMap(({ name, width }) => {
      const slot = placement.slots[name];
      return slot && slot.width > 0 ? [{ width, slot: Math.ceil(slot.width - 0.05) }] : [];
    })
    .sort((a, b) => a.width - b.width);
  const entries = measured.map(({ width, slot }, index) => {
    const share = Math.ceil((slot / width) * 1000) / 10;
    return index === measured.length - 1 ? `${slot}px` : `(max-width: ${width}px) ${share}vw`;
  });
  return entries.join(', ');
}
