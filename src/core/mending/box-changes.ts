/** An element (its tag, then `#id` and `.class` where it has them) with x, y, width and height in the document, CSS px. */
export type ElementBox = [name: string, x: number, y: number, width: number, height: number];

export type Layouts = ReadonlyMap<number, readonly ElementBox[]>;

/** A box that is another one after mending. */
export interface BoxChange {
  /** Width of the viewport, CSS px. */
  viewport: number;
  element: string;
  says: string;
}

/** What was found on the pages of a site and of its mended copy. */
export interface ComparedLayouts {
  changes: (BoxChange & { page: string })[];
  /** How many pages were compared, and at how many widths each. */
  pages: number;
  widths: number;
  /** Pages that could not be compared. */
  problems: { page: string; why: string }[];
}

/** Boxes may be so far off, CSS px: sizes of files are whole px, and so are the ratios that follow from them, … */
const sameBox = 1.5;
/** … and such small steps add up on the way down a page: this share of a place or a size. */
const sameShare = 0.002;

/** Whether two places or sizes are the same but for what rounding adds up to. CSS px. */
export const isSameLength = (was: number, now: number) =>
  Math.abs(was - now) <= Math.max(sameBox, sameShare * Math.abs(was));

const tagOf = ([name]: ElementBox) => /^[^#.]*/.exec(name)?.[0] ?? '';

const images: ReadonlySet<string> = new Set(['img', 'image', 'video', 'input']);

/** How two boxes of one element differ; undefined where they do not. */
function difference(was: ElementBox, now: ElementBox, acrossOnly: boolean): string | undefined {
  const sides = acrossOnly ? ([1, 3] as const) : ([1, 2, 3, 4] as const);
  if (sides.every((side) => isSameLength(was[side], now[side]))) return undefined;
  const place = ([, x, y, width, height]: ElementBox) =>
    [`${Math.round(width)} × ${Math.round(height)} px`, `${Math.round(x)}, ${Math.round(y)}`] as const;
  const [[sizeBefore, placeBefore], [sizeNow, placeNow]] = [place(was), place(now)];
  return sizeBefore === sizeNow
    ? `it stands at ${placeNow} instead of ${placeBefore}`
    : `it is ${sizeNow} instead of ${sizeBefore}`;
}

export interface BoxComparison {
  before: Layouts;
  after: Layouts;
  /** The page before, loaded once more: what differs between two loads is no change. */
  again?: Layouts | undefined;
  /** The page has images of which the box was the fault: only what lies beside them is compared, and only across. */
  boxWasTheFault: boolean;
}

/**
 * What lies elsewhere on a mended page, by the width of the viewport; of each width the first few in document order, since what stands below
 * a box that grew moves along with it.
 */
export function boxChanges({ before, after, again, boxWasTheFault }: BoxComparison): BoxChange[] {
  return [...before].flatMap(([viewport, was]): BoxChange[] => {
    const now = after.get(viewport) ?? [];
    const unsteady = unsteadyIn(was, again?.get(viewport));
    if (unsteady === 'all') return [];
    if (!sameElements(was, now))
      return [
        { viewport, element: 'body', says: `it shows ${now.length} elements instead of ${was.length}` },
      ];
    return was
      .flatMap((box, index): BoxChange[] => {
        const other = now[index];
        if (!other || unsteady.has(index) || (boxWasTheFault && images.has(tagOf(box)))) return [];
        const says = difference(box, other, boxWasTheFault);
        return says === undefined ? [] : [{ viewport, element: box[0], says }];
      })
      .slice(0, mostOfAWidth);
  });
}

const mostOfAWidth = 3;

const sameElements = (one: readonly ElementBox[], other: readonly ElementBox[]) =>
  one.length === other.length &&
  one.every((box, index) => {
    const counterpart = other[index];
    return counterpart !== undefined && tagOf(box) === tagOf(counterpart);
  });

/** Elements that lie elsewhere in another load of the same page. */
function unsteadyIn(
  was: readonly ElementBox[],
  again: readonly ElementBox[] | undefined,
): ReadonlySet<number> | 'all' {
  if (!again) return new Set();
  if (!sameElements(was, again)) return 'all';
  return new Set(
    was.flatMap((box, index) => {
      const other = again[index];
      return other && difference(box, other, false) !== undefined ? [index] : [];
    }),
  );
}
