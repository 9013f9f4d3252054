/** A page's images in view, CSS px², by their order; and which of them was the largest paint, -1 for none. */
export interface SeenPaint {
  areas: readonly number[];
  largest: number;
}

/** Areas that differ by less are the same: boxes are laid out in fractions of a px. */
const sameArea = 0.002;

/** Text of other pages may be so much larger or smaller than what was seen. */
const leeway = 0.1;

/** Which image is the largest paint: the largest in view, unless text is larger. How large an image must be for that is learnt from pages. */
export class LargestPaintRule {
  private constructor(
    /** Whether it explains all that was seen. */
    readonly holds: boolean,
    /** The smallest image that was the largest paint, … */
    readonly smallestImage: number,
    /** … and the largest one on a page where text was. */
    readonly largestUnderText: number,
  ) {}

  static learn(seen: readonly SeenPaint[]): LargestPaintRule {
    const images = seen.filter(({ largest }) => largest >= 0);
    const texts = seen.filter(({ largest }) => largest < 0);
    return new LargestPaintRule(
      images.every(({ areas, largest }) => firstLargest(areas) === largest),
      Math.min(Number.POSITIVE_INFINITY, ...images.map(({ areas }) => Math.max(...areas))),
      Math.max(Number.NEGATIVE_INFINITY, ...texts.map(({ areas }) => Math.max(0, ...areas))),
    );
  }

  /** @returns its place in the order, -1 for text; and the place of the image that it may be as well, where that is not clear */
  largestOf(areas: readonly number[]): { largest: number; perhaps?: number } {
    const size = Math.max(0, ...areas);
    const image = firstLargest(areas);
    if (size === 0) return { largest: -1 };
    const asImage = size >= this.smallestImage * (1 - leeway) && size > this.largestUnderText;
    const asText = size <= this.largestUnderText * (1 + leeway) && size < this.smallestImage;
    if (asImage !== asText) return { largest: asImage ? image : -1 };
    const nearer = size - this.largestUnderText > this.smallestImage - size;
    return { largest: nearer ? image : -1, perhaps: image };
  }
}

function firstLargest(areas: readonly number[]): number {
  const size = Math.max(0, ...areas);
  return areas.findIndex((area) => area > 0 && area >= size * (1 - sameArea));
}
