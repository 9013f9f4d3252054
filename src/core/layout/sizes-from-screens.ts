import type { Placement, Screen } from '../run/types.js';

/** A `sizes` text from the screens alone, narrowest first: right on those, a guess between them. It gives the width that is drawn. */
export function sizesFromScreens(placement: Placement, screens: readonly Screen[]): string {
  const measured = new Map<number, number>();
  for (const { name, width } of screens) {
    const drawn = Math.ceil((placement.shown[name]?.drawnWidth ?? 0) - 0.05);
    if (drawn > 0 && (placement.slots[name]?.width ?? 0) > 0)
      measured.set(width, Math.max(measured.get(width) ?? 0, drawn));
  }
  const sorted = [...measured].sort(([a], [b]) => a - b);
  const entries = sorted.map(([width, drawn], index) => {
    const share = Math.ceil((drawn / width) * 1000) / 10;
    return index === sorted.length - 1 ? `${drawn}px` : `(max-width: ${width}px) ${share}vw`;
  });
  return entries.join(', ');
}
