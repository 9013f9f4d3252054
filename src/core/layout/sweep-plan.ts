/** The viewport widths that a sweep covers, CSS px. */
export const narrowest = 320;
export const widest = 2560;

/** Between two neighbours farther apart than this one more width is looked at whatever the page says. */
const grid = 128;

/** The first widths to measure: the ends, a coarse grid, and each breakpoint with one width on each side. */
export function firstWidths(breakpoints: readonly number[]): number[] {
  const widths = new Set([narrowest, widest]);
  for (let width = narrowest; width < widest; width += grid) widths.add(width);
  for (const breakpoint of breakpoints)
    for (const near of [
      Math.floor(breakpoint) - 1,
      Math.floor(breakpoint),
      Math.ceil(breakpoint),
      Math.ceil(breakpoint) + 1,
    ])
      if (near >= narrowest && near <= widest) widths.add(near);
  return [...widths].sort((a, b) => a - b);
}

/** Slot widths of all placements at one viewport width, by placement; null where there is no box. */
export type WidthRow = ReadonlyMap<string, number | null>;

/** Off the straight line by more than this means that something happens in between, CSS px. */
const straight = 0.3;

/**
 * Where to look next: in each gap between measured neighbours, the middle, unless the gap is one px. A gap is settled once its
 * middle lies on the straight line between its ends for every placement; then its two halves count as settled too.
 */
export class SweepPlan {
  readonly rows = new Map<number, WidthRow>();
  #open: [low: number, high: number][] = [];

  /** @param ignored placements whose slots do not count */
  constructor(readonly ignored: ReadonlySet<string> = new Set()) {}

  /** Takes the first rows and opens the gaps between them. */
  begin(rows: ReadonlyMap<number, WidthRow>): void {
    const widths = [...rows.keys()].sort((a, b) => a - b);
    for (const width of widths) this.rows.set(width, rows.get(width) ?? new Map());
    for (let index = 1; index < widths.length; index++)
      this.#open.push([widths[index - 1] ?? narrowest, widths[index] ?? widest]);
  }

  /** The next widths to measure; empty when all is settled. */
  wanted(): number[] {
    this.#open = this.#open.filter(([low, high]) => high - low > 1);
    return this.#open.map(middle);
  }

  /** Takes the rows of the widths that were wanted. */
  take(rows: ReadonlyMap<number, WidthRow>): void {
    const next: [number, number][] = [];
    for (const [low, high] of this.#open) {
      const width = middle([low, high]);
      const row = rows.get(width);
      if (!row) continue;
      this.rows.set(width, row);
      if (this.#isStraight(low, width, high, row)) continue;
      next.push([low, width], [width, high]);
    }
    this.#open = next;
  }

  #isStraight(low: number, width: number, high: number, row: WidthRow): boolean {
    const below = this.rows.get(low);
    const above = this.rows.get(high);
    const part = (width - low) / (high - low);
    for (const [placement, slot] of row) {
      if (this.ignored.has(placement)) continue;
      const left = below?.get(placement) ?? null;
      const right = above?.get(placement) ?? null;
      if (slot === null || left === null || right === null) {
        if (slot === left && slot === right) continue;
        return false;
      }
      if (Math.abs(left + part * (right - left) - slot) > straight) return false;
    }
    return true;
  }
}

const middle = ([low, high]: [number, number]) => Math.floor((low + high) / 2);
