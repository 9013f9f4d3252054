import { groupBy } from '../grouping.js';
import type { PageRecord, Placement } from '../run/types.js';
import { nothingToPaste, type Case } from './check.js';
import type { Trial } from './decide.js';

/**
 * Images of pages that other pages show in frames: one text, laid out in two places. The page itself decides about it, and what it gets is held
 * against each frame too.
 */
export class FramedTexts {
  readonly #framed = new Map<string, Placement[]>();
  readonly #owners = new Map<string, Placement>();

  constructor({ pages, placements }: { pages: readonly PageRecord[]; placements: readonly Placement[] }) {
    const files = new Map(pages.map(({ path, file }) => [path, file]));
    const isFramed = ({ frames }: Placement) => frames !== undefined;
    const framed = placements.filter((each) => isFramed(each) && each.kind !== 'css-image' && each.source);
    if (framed.length === 0) return;
    const byText = groupBy(framed, textOf);
    for (const placement of placements) {
      if (isFramed(placement) || placement.source?.file !== files.get(placement.page)) continue;
      const shown = byText.get(textOf(placement)) ?? [];
      if (shown.length === 0) continue;
      this.#framed.set(placement.id, shown);
      for (const { id } of shown) this.#owners.set(id, placement);
    }
  }

  /** The image of the page itself whose text this one of a frame has; undefined for all others. */
  ownerOf({ id }: Placement): Placement | undefined {
    return this.#owners.get(id);
  }

  /** The images of frames that have the text of this one. */
  framedOf({ id }: Placement): readonly Placement[] {
    return this.#framed.get(id) ?? [];
  }

  /** What changes along with an image of a page, in the frames that show it: states of their own, since each is laid out by itself. */
  alongWith({ placement, state }: Trial): Trial[] {
    return this.framedOf(placement).map((framed) => ({ placement: framed, state: { ...state } }));
  }

  /** Findings as they are to be mended: of what stands in a frame too the page itself has them, or a person decides. */
  leftTo(cases: readonly Case[]): readonly Case[] {
    if (this.#owners.size === 0) return cases;
    const found = new Set(cases.map(({ placement }) => placement.id));
    return cases.flatMap((each): Case[] => {
      const owner = this.ownerOf(each.placement);
      if (!owner) return [each];
      return found.has(owner.id) ? [] : [{ ...each, remedy: () => leftToAPerson(owner) }];
    });
  }
}

const leftToAPerson = ({ page }: Placement) =>
  nothingToPaste(
    `It stands in a frame, and its text is that of ${page}, where it is laid out otherwise. If nobody opens that page by itself, audit the site without it (--page names the others): then this one is mended.`,
  );

const textOf = ({ kind, source }: Placement) => JSON.stringify([kind, source]);
