import { groupBy } from '../grouping.js';
import type { Placement, Screen, SlotSweep } from '../run/index.js';

/** What a sweep says of a placement, whichever placement of its like it was. */
export type SweptShape = Omit<SlotSweep, 'placement' | 'like'>;

/**
 * What is known of a placement's slot without a sweep: how it is rendered, and what was measured of it on each screen. On pages of one
 * skeleton placements of which this is the same are taken to have the same slot at every width.
 */
export function slotSigns({ kind, template, slots, shown }: Placement, screens: readonly Screen[]): string {
  const measured = screens.map(({ name }) => {
    const { drawnWidth, fit, widthFrom } = shown[name] ?? {};
    return [rounded(slots[name]?.width), rounded(drawnWidth), fit, widthFrom];
  });
  return JSON.stringify([kind, template, measured]);
}

/** To the half of a CSS px: finer differences come from rounding. */
const rounded = (width: number | undefined) => (width === undefined ? null : Math.round(width * 2) / 2);

/** Placements of one page for which a sweep is wanted, by their signs, in the order of the page. */
export type PageSigns = readonly { id: string; signs: string }[];

/** Sweeps of the pages of one skeleton, from which those of the others are taken. */
export class SweptTemplate {
  /** By signs: the sweeps of each swept page's placements with them, in the order of the page. */
  readonly #known = new Map<string, { id: string; shape: SweptShape }[]>();

  /** Takes what was swept of a page; what is known already stays. */
  add(page: PageSigns, sweeps: ReadonlyMap<string, SlotSweep>): void {
    for (const [signs, own] of groupBy(page, (each) => each.signs)) {
      const swept = own.flatMap(({ id }) => {
        const found = sweeps.get(id);
        if (!found) return [];
        const { placement: _, like: _like, ...shape } = found;
        return [{ id, shape }];
      });
      if (swept.length > (this.#known.get(signs)?.length ?? 0)) this.#known.set(signs, swept);
    }
  }

  /** The sweeps that a page has by its likes; undefined where one of its placements has none. */
  sweepsFor(page: PageSigns): SlotSweep[] | undefined {
    const sweeps: SlotSweep[] = [];
    for (const [signs, own] of groupBy(page, (each) => each.signs))
      for (const [index, { id }] of own.entries()) {
        const known = this.#known.get(signs) ?? [];
        // More of them than on any swept page: they are as the others are, if those are all alike.
        const like = known[index] ?? (allAlike(known) ? known[0] : undefined);
        if (!like) return undefined;
        sweeps.push({ placement: id, ...like.shape, like: like.id });
      }
    return sweeps;
  }
}

const allAlike = (known: readonly { shape: SweptShape }[]) =>
  known.every(({ shape }) => known[0] !== undefined && isSameSweep(known[0].shape, shape));

/** Sweeps of one layout differ by so much at most, CSS px: widths are searched for to the pixel. */
const tolerance = 1;

/** Whether two sweeps are of the same slot, and give the same to write. */
export function isSameSweep(one: SweptShape, other: SweptShape): boolean {
  const near = (a: number, b: number) => Math.abs(a - b) <= tolerance;
  return (
    one.write === other.write &&
    one.reason === other.reason &&
    near(one.constant ?? 0, other.constant ?? 0) &&
    one.pieces.length === other.pieces.length &&
    one.pieces.every((piece, index) => {
      const second = other.pieces[index];
      return (
        second !== undefined &&
        near(piece.from, second.from) &&
        near(piece.to, second.to) &&
        near(piece.slotFrom, second.slotFrom) &&
        near(piece.slotTo, second.slotTo)
      );
    })
  );
}
