export interface SheetItem {
  url: string;
  /** Device px. */
  width: number;
  height: number;
}

export interface SheetLayout {
  width: number;
  height: number;
  places: (SheetItem & { x: number; y: number })[];
}

/** Space between two items, so that a scaled sheet does not show a neighbour's edge. Device px. */
const gap = 1;

/**
 * Lays items out on one sheet, in shelves from top to bottom: the highest first, each shelf as high as its first item, the sheet about
 * as wide as high. Ties by address, so that equal input gives an equal sheet.
 */
export function layOutSheet(items: readonly SheetItem[]): SheetLayout {
  const sorted = [...items].sort(
    (a, b) => b.height - a.height || b.width - a.width || (a.url < b.url ? -1 : 1),
  );
  const area = sorted.reduce((sum, { width, height }) => sum + (width + gap) * (height + gap), 0);
  const widest = Math.max(0, ...sorted.map(({ width }) => width));
  const limit = Math.max(widest, Math.ceil(Math.sqrt(area)));
  const places: SheetLayout['places'] = [];
  let [x, y, shelf, right] = [0, 0, 0, 0];
  for (const item of sorted) {
    if (x > 0 && x + item.width > limit) {
      y += shelf + gap;
      x = 0;
      shelf = 0;
    }
    places.push({ ...item, x, y });
    right = Math.max(right, x + item.width);
    shelf = Math.max(shelf, item.height);
    x += item.width + gap;
  }
  return { width: right, height: y + shelf, places };
}
