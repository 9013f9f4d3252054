import type { Slot } from '../run/index.js';

/** A width and a height, CSS px. */
export interface Size {
  width: number;
  height: number;
}

/** What decides about the box of an image beside the styles. */
export interface SizedImage {
  /** Of the file that is picked, at its density. */
  natural: Size | undefined;
  /** What its attributes say. */
  stated: Size | undefined;
}

export interface SeenBox extends SizedImage {
  box: Slot | null;
}

/** Boxes are laid out in 64ths of a px and told to the hundredth; ratios of whole pixels differ by more. */
const tolerance = 0.6;

/** Rules that hold for all that was seen must say the same of what was not. */
const agreement = 1;

type Rule = (image: SizedImage, width: number) => number | undefined;

/** Where a box lies and how large it is, but for its top, by what was seen of the same image on other pages of a template. */
export class BoxRules {
  private constructor(
    readonly hasBox: boolean,
    readonly widths: readonly Rule[],
    readonly heights: readonly Rule[],
    readonly lefts: readonly ((width: number) => number)[],
  ) {}

  /** @returns undefined where no rule explains all that was seen */
  static learn(seen: readonly SeenBox[]): BoxRules | undefined {
    const boxed = seen.flatMap(({ box, ...image }) => (box ? [{ box, image }] : []));
    if (boxed.length === 0) return new BoxRules(false, [], [], []);
    if (boxed.length < seen.length) return undefined;
    const explains = (value: number | undefined, real: number) =>
      value !== undefined && Math.abs(value - real) <= tolerance;
    const first = boxed[0]?.box ?? { x: 0, y: 0, width: 0, height: 0 };
    const limit = Math.max(...boxed.map(({ box }) => box.width));
    const widths = widthRules(first.width, limit).filter((rule) =>
      boxed.every(({ image, box }) => explains(rule(image, 0), box.width)),
    );
    const heights = heightRules(first.height).filter((rule) =>
      boxed.every(({ image, box }) => explains(rule(image, box.width), box.height)),
    );
    const lefts = leftRules(first).filter((rule) =>
      boxed.every(({ box }) => explains(rule(box.width), box.x)),
    );
    if (widths.length === 0 || heights.length === 0 || lefts.length === 0) return undefined;
    return new BoxRules(true, widths, heights, lefts);
  }

  /** @returns the box without its top; null for no box; undefined where the rules that hold say different things */
  boxOf(image: SizedImage): Omit<Slot, 'y'> | null | undefined {
    if (!this.hasBox) return null;
    const width = commonValue(this.widths.map((rule) => rule(image, 0)));
    if (width === undefined) return undefined;
    const height = commonValue(this.heights.map((rule) => rule(image, width)));
    const x = commonValue(this.lefts.map((rule) => rule(width)));
    return height === undefined || x === undefined ? undefined : { x, width, height };
  }
}

/** The first of values that are all the same; undefined where they are not, or one is not known. */
function commonValue(values: readonly (number | undefined)[]): number | undefined {
  const [first] = values;
  const same = (value: number | undefined) =>
    first !== undefined && value !== undefined && Math.abs(value - first) <= agreement;
  return values.every(same) ? first : undefined;
}

const widthRules = (constant: number, limit: number): Rule[] => [
  () => constant,
  ({ natural }) => natural && Math.min(natural.width, limit),
  ({ stated }) => stated && Math.min(stated.width, limit),
];

const heightRules = (constant: number): Rule[] => [
  () => constant,
  ({ natural }, width) => shaped(natural, width),
  ({ stated }, width) => shaped(stated, width),
  ({ natural }) => natural?.height,
  ({ stated }) => stated?.height,
];

const shaped = (size: Size | undefined, width: number) =>
  size && size.width > 0 ? (width * size.height) / size.width : undefined;

/** Its left edge, its middle or its right edge stays where it is. */
const leftRules = ({ x, width }: Slot): ((own: number) => number)[] => [
  () => x,
  (own) => x + (width - own) / 2,
  (own) => x + width - own,
];
