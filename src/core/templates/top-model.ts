import { leastSquares } from '../layout/least-squares.js';
import type { TextBlock } from './outline.js';

/** What stands above a place of a page. */
export interface Above {
  text: PageText;
  /** So many blocks of its text. */
  blocks: number;
  /** Heights of the images before it, together, CSS px. */
  images: number;
}

/** Widths of a line that are tried, in characters: from a narrow card to a wide table. */
const lineWidths = [18, 22, 26, 30, 34, 38, 42, 46, 50, 55, 60, 66, 72, 80, 90, 100, 115, 130, 150];
/** A heading's letters are larger; … */
const headingShares = [0.35, 0.5, 0.65, 1];
/** … the share with which the width of a line is looked for. */
const usualShare = 0.5;

/** The text of a page as lines of some width. */
export class PageText {
  readonly #sums = new Map<string, readonly Lines[]>();

  constructor(readonly blocks: readonly TextBlock[]) {}

  /**
   * Lines of the first blocks, if so many characters go into one.
   * @param width of a line of running text
   * @param share of it that goes into one of a heading
   */
  linesBefore(blocks: number, width: number, share: number): Lines {
    const key = `${width} ${share}`;
    const sums = this.#sums.get(key) ?? sumUp(this.blocks, width, width * share);
    this.#sums.set(key, sums);
    return sums[Math.min(blocks, sums.length - 1)] ?? nothing;
  }
}

interface Lines {
  prose: number;
  proseBlocks: number;
  characters: number;
  headings: number;
  headingBlocks: number;
}

const nothing: Lines = { prose: 0, proseBlocks: 0, characters: 0, headings: 0, headingBlocks: 0 };

function sumUp(blocks: readonly TextBlock[], width: number, headingWidth: number): Lines[] {
  const sums = [nothing];
  let sum = nothing;
  for (const { heading, length } of blocks) {
    sum = heading
      ? {
          ...sum,
          headings: sum.headings + Math.ceil(length / headingWidth),
          headingBlocks: sum.headingBlocks + 1,
        }
      : {
          ...sum,
          prose: sum.prose + Math.ceil(length / width),
          proseBlocks: sum.proseBlocks + 1,
          characters: sum.characters + length,
        };
    sums.push(sum);
  }
  return sums;
}

/** Tops that differ by less are the same, CSS px. */
const sameTop = 1;

/** How far the tops of a place go with the text and the images above it, on pages of one template at one screen. */
export class TopModel {
  constructor(
    readonly width: number,
    readonly share: number,
    readonly coefficients: readonly number[],
    /** Standard deviation of what it leaves unexplained, CSS px. */
    readonly error: number,
  ) {}

  /** @param seen pages of the template: what stands above the place, and its top */
  static learn(seen: readonly { above: Above; top: number }[]): TopModel {
    const [first] = seen;
    if (first && seen.every(({ top }) => Math.abs(top - first.top) <= sameTop))
      return new TopModel(0, 0, [first.top], 0);
    const fit = (width: number, share: number) => fitLines(seen, width, share);
    const best = (models: readonly TopModel[]) => models.reduce((a, b) => (b.error < a.error ? b : a));
    const { width } = best(lineWidths.map((each) => fit(each, usualShare)));
    return best(headingShares.map((share) => fit(width, share)));
  }

  /** CSS px. */
  topOf(above: Above): number {
    return this.coefficients.length === 1
      ? (this.coefficients[0] ?? 0)
      : valueOf(columnsOf(above, this.width, this.share), this.coefficients);
  }
}

function fitLines(seen: readonly { above: Above; top: number }[], width: number, share: number): TopModel {
  const rows = seen.map(({ above }) => columnsOf(above, width, share));
  const tops = seen.map(({ top }) => top);
  const coefficients = leastSquares(rows, tops);
  const squares = rows.reduce(
    (sum, row, index) => sum + (valueOf(row, coefficients) - (tops[index] ?? 0)) ** 2,
    0,
  );
  const freedom = Math.max(1, rows.length - coefficients.length);
  return new TopModel(width, share, coefficients, Math.sqrt(squares / freedom));
}

function columnsOf({ text, blocks, images }: Above, width: number, share: number): number[] {
  const lines = text.linesBefore(blocks, width, share);
  const { prose, proseBlocks, characters, headings, headingBlocks } = lines;
  return [1, prose, proseBlocks, characters, headings, headingBlocks, images];
}

const valueOf = (row: readonly number[], coefficients: readonly number[]) =>
  row.reduce((sum, value, index) => sum + value * (coefficients[index] ?? 0), 0);
