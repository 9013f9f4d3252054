import { naturalSize, readImageMarkup } from '../markup/index.js';
import type { TagEdit } from '../plan/tag.js';
import { attributeOf } from '../plan/tag.js';
import type { Placement, Shown, Slot } from '../run/types.js';
import { nothingToPaste, type Remedy } from './check.js';
import type { Facts } from './facts.js';
import { onlyClaim } from './sizes-stretches.js';

/** Two shapes that differ by more than this are not the same. */
export const otherShape = 0.02;

/** The size that a placement's file is laid out at by itself, by the source that offers it, CSS px. */
function naturalSizes(
  placement: Placement,
  { plan, screens }: Facts,
): Map<number, { width: number; height: number }> {
  const sizes = new Map<number, { width: number; height: number }>();
  for (const { name } of screens) {
    const taken = plan.taken(placement, name, 0);
    if (!taken || taken.file.width === 0 || taken.file.height === 0) continue;
    // Width descriptors lay a file out at the width that sizes claims: its own pixels give the same shape and say more.
    const density = taken.claim === undefined ? taken.density : 1;
    const known = sizes.get(taken.source);
    const size = naturalSize(taken.file, density);
    if (!known || size.width > known.width) sizes.set(taken.source, size);
  }
  return sizes;
}

/** The size whose shape the `img` itself should state. */
export function naturalSizeOf(
  placement: Placement,
  facts: Facts,
): { width: number; height: number } | undefined {
  const sizes = naturalSizes(placement, facts);
  const image = (facts.plan.stateOf(placement, 0)?.sources.length ?? 1) - 1;
  return sizes.get(image) ?? [...sizes.values()][0];
}

const shape = ({ width, height }: { width: number; height: number }) => width / height;

/**
 * Writes the dimensions of the file into the tag, at the size at which it is laid out by itself, and of each source that shows a crop of
 * another shape those of the crop. A side that an attribute of the tag gives the box stays as it is, and the other follows from it. Where
 * an attribute would give the box another side than it has, a style keeps that side free.
 * @returns none where no attributes have the shape of the file and leave the box as wide and as high as it is
 */
export function dimensionEdits(placement: Placement, facts: Facts): TagEdit[] {
  const natural = naturalSizeOf(placement, facts);
  if (!natural || !readImageMarkup(placement.markup)) return [];
  const edits = editsFor(placement, natural, facts);
  const needsStyle = edits.some(({ kind }) => kind === 'add-style');
  if (edits.length > 0 && !(needsStyle && facts.protections.forbids(placement, 'style-attributes')))
    return edits;
  const constant = constantSize(placement, natural, facts);
  const others = constant ? editsFor(placement, constant, facts) : [];
  return others.length > 0 ? others : edits;
}

/** The size of a box that has, or claims, one width at every width of the viewport, whatever its file. */
function constantSize(
  placement: Placement,
  natural: { width: number; height: number },
  { sweeps }: Facts,
): { width: number; height: number } | undefined {
  const width = onlyClaim(placement) ?? sweeps.get(placement.id)?.constant;
  return typeof width === 'number' ? { width, height: width / shape(natural) } : undefined;
}

function editsFor(placement: Placement, wanted: { width: number; height: number }, facts: Facts): TagEdit[] {
  const statement = statementOf(placement, wanted);
  if (!statement || !widthHolds(placement, statement.size, facts)) return [];
  const { size, kept, declarations } = statement;
  const free = freeSides(placement, size, facts);
  if (!free) return [];
  const edits = sides
    .filter((side) => side !== kept)
    .map((side): TagEdit => ({ kind: 'set', name: side, value: String(Math.round(size[side])) }));
  for (const declaration of [...declarations, ...free]) edits.push({ kind: 'add-style', declaration });
  return [...edits, ...cropEdits(placement, size, facts)];
}

/** The dimensions as a fix, or what to do where none would do. */
export function dimensionRemedy(placement: Placement, facts: Facts): Remedy {
  const edits = dimensionEdits(placement, facts);
  return edits.length > 0
    ? { changes: [{ kind: 'edit', edits }], notes: [] }
    : nothingToPaste(
        'No width and height in the tag would leave its box as it is: give it a width in the style sheet; then they keep its room.',
      );
}

type Side = 'width' | 'height';

const sides: readonly Side[] = ['width', 'height'];

interface Statement {
  size: { width: number; height: number };
  /** The side whose attribute stays as it is written. */
  kept?: Side;
  /** What a style has to say in the place of an attribute. */
  declarations: string[];
}

/** What the attributes are to say; undefined where one gives the box its width, and the other its height on this or another screen. */
function statementOf(
  placement: Placement,
  natural: { width: number; height: number },
): Statement | undefined {
  const [width, height] = [givenBy(placement, 'width'), givenBy(placement, 'height')];
  if (!width && !height) return { size: natural, declarations: [] };
  if (width && height) return undefined;
  const ratio = shape(natural);
  if (height)
    return height.percent
      ? undefined
      : { size: { width: height.value * ratio, height: height.value }, kept: 'height', declarations: [] };
  if (!width?.percent)
    return (
      width && { size: { width: width.value, height: width.value / ratio }, kept: 'width', declarations: [] }
    );
  // A percentage gives no ratio, and a style in its place would outdo what style sheets and sources say on other screens.
  const hasOthers = readImageMarkup(placement.markup)?.sources.some(
    (source) => source.width || source.height,
  );
  return width.everywhere && !hasOthers
    ? { size: natural, declarations: [`width: ${width.value}%`] }
    : undefined;
}

/**
 * The attribute of a tag that gives its box a side on some screens or everywhere; undefined also where it is one of a `source` that does.
 * HTML standard, "rules for parsing dimension values".
 */
function givenBy(
  { markup, shown }: Placement,
  side: Side,
): { value: number; percent: boolean; everywhere: boolean } | undefined {
  const from = Object.values(shown).map((each) => each[`${side}From`]);
  if (!from.includes('attribute')) return undefined;
  const match = /^\s*(\d+(?:\.\d+)?)(%?)/.exec(attributeOf(markup, side) ?? '');
  if (!match) return undefined;
  return {
    value: Number(match[1]),
    percent: match[2] !== '',
    everywhere: from.every((each) => each === 'attribute'),
  };
}

/**
 * Whether boxes stay as wide as they are once an attribute says the width: where nothing said it they are as wide as their file is laid
 * out, which with width descriptors is another width on each screen, or as a style lets them be.
 */
function widthHolds(
  placement: Placement,
  size: { width: number; height: number },
  { plan, screens }: Facts,
): boolean {
  return screens.every(({ name }) => {
    const [shown, slot, taken] = [
      placement.shown[name],
      placement.slots[name],
      plan.taken(placement, name, 0),
    ];
    if (!shown || !taken || shown.widthFrom !== 'nothing') return true;
    const limit = shown.limitWidth ?? Number.POSITIVE_INFINITY;
    const then = Math.min(size.width, limit);
    // What has no box yet will be as wide as it claims.
    if (!slot || slot.width === 0)
      return taken.claim === undefined || Math.abs(then - Math.min(taken.claim, limit)) <= 1;
    if (shown.heightFrom === 'style' || shown.heightFrom === 'attribute') return true;
    if (isNearLimit(slot, size, shown)) return false;
    if (Math.abs(then - slot.width) <= 1) return true;
    // Where it has the shape of its file, the height may be what a style limits: the width would not follow that any more.
    const followed = (slot.width * taken.file.height) / taken.file.width;
    if (Math.abs(followed - slot.height) <= 1) return false;
    // Something that is not known holds it: a file that is larger still changes nothing.
    const natural = taken.file.width / taken.density;
    return slot.width < Math.min(natural, shown.limitWidth ?? natural) - 1 && size.width >= natural;
  });
}

/** On a screen that is a little wider the height may be what a style limits: a width that is given would not follow it then. */
const isNearLimit = (slot: Slot, own: { height: number }, { limitHeight = Infinity }: Shown): boolean =>
  own.height > limitHeight + 1 && slot.height * nearLimit > limitHeight;

const nearLimit = 1.5;

/** Dimensions for the sources whose crops have another shape than a size, or are less wide where the file gives the box its width. */
export function cropEdits(
  placement: Placement,
  size: { width: number; height: number },
  facts: Facts,
): TagEdit[] {
  const image = (facts.plan.stateOf(placement, 0)?.sources.length ?? 1) - 1;
  return [...naturalSizes(placement, facts)].flatMap(([index, crop]): TagEdit[] => {
    const isAlike = Math.abs(shape(crop) / shape(size) - 1) <= otherShape;
    if (index === image || (isAlike && !isNarrower(placement, index, [crop, size], facts))) return [];
    const width = keepsBox(placement, index, facts)
      ? Number.parseFloat(attributeOf(placement.markup, 'width') ?? '')
      : crop.width;
    if (!(width > 0) || Object.values(placement.shown).some(({ heightFrom }) => heightFrom === 'attribute'))
      return [];
    return [
      { kind: 'set-on-source', index, name: 'width', value: String(Math.round(width)) },
      { kind: 'set-on-source', index, name: 'height', value: String(Math.round(width / shape(crop))) },
    ];
  });
}

/** Whether boxes that are as wide as the file of a source would be wider by the attributes of the image. */
function isNarrower(
  placement: Placement,
  source: number,
  [own, attributes]: readonly [{ width: number }, { width: number }],
  { plan, screens }: Facts,
): boolean {
  const isShown = screens.some(({ name }) => {
    const taken = plan.taken(placement, name, 0);
    const follows = placement.shown[name]?.widthFrom === 'nothing';
    return taken?.source === source && taken.claim === undefined && follows;
  });
  return isShown && own.width < attributes.width - 1;
}

/**
 * Whether the image's own width attribute gives the box its width where the source is taken: the attributes of the source count instead of
 * it then, so that this width must stay. Elsewhere a style or the column limits the box, and any width that is not smaller will do.
 */
function keepsBox(placement: Placement, source: number, { plan, screens }: Facts): boolean {
  return screens.some(({ name }) => {
    const [shown, slot] = [placement.shown[name], placement.slots[name]];
    if (shown?.widthFrom !== 'attribute' || !slot || slot.width === 0) return false;
    return plan.taken(placement, name, 0)?.source === source;
  });
}

/**
 * Keeps free by a style the sides of a box which nothing gives: an attribute would give them. A box that is as large as its file on every
 * screen, and that no style limits, has none.
 * @returns undefined where a style sheet gives such a side on another screen: that would be outdone
 */
function freeSides(
  placement: Placement,
  size: { width: number; height: number },
  { screens }: Facts,
): string[] | undefined {
  let [width, height, whereHidden] = [false, false, false];
  for (const { name } of screens) {
    const [shown, slot] = [placement.shown[name], placement.slots[name]];
    if (!slot || slot.width === 0) {
      whereHidden ||= shown?.heightFrom === 'nothing';
      continue;
    }
    if (!shown) continue;
    const asLarge = Math.abs(slot.width - size.width) < 1 && Math.abs(slot.height - size.height) < 1;
    // What a style limits is smaller on some screen, and its height must go with it.
    if (asLarge && shown.limitWidth === null) continue;
    if (shown.heightFrom === 'nothing') height = true;
    if (shown.widthFrom === 'nothing' && shown.heightFrom !== 'nothing' && shown.heightFrom !== 'auto')
      width = true;
  }
  const isStyled = (side: 'widthFrom' | 'heightFrom') =>
    Object.values(placement.shown).some((shown) => shown[side] === 'style');
  if ((width && isStyled('widthFrom')) || (height && isStyled('heightFrom'))) return undefined;
  // Nobody knows how large it will be where it has no box yet: a style may limit its width then.
  if (whereHidden && !isStyled('heightFrom')) height = true;
  return [...(width ? ['width: auto'] : []), ...(height ? ['height: auto'] : [])];
}

const isDimension = (value: string | null | undefined) => /^\s*\d+/.test(value ?? '');

/** Whether a tag states both dimensions. HTML standard, 4.8.16 "Dimension attributes": valid non-negative integers. */
export function hasDimensions({ kind, markup }: Pick<Placement, 'kind' | 'markup'>): boolean {
  if (kind === 'video-poster') return sides.every((side) => isDimension(attributeOf(markup, side)));
  const read = readImageMarkup(markup);
  return read === undefined || (isDimension(read.img.width) && isDimension(read.img.height));
}

/** Less than this moves nothing that a reader would notice, CSS px. */
export const noticeable = 2;

/** Makes an image lazy, and gives it room where nothing does: without room lazy images count as near, and are fetched at once. */
export function lazyEdits(placement: Placement, facts: Facts): TagEdit[] {
  const room = Object.values(placement.shown).every(
    ({ whileWaiting }) => whileWaiting !== null && whileWaiting.height >= noticeable,
  );
  const dimensions = room || hasDimensions(placement) ? [] : dimensionEdits(placement, facts);
  const isHidden = Object.values(placement.slots).every((slot) => !slot || slot.width === 0);
  // Without room it would only be another fault, unless it has no box on any screen.
  if (!room && !isHidden && !hasDimensions(placement) && dimensions.length === 0) return [];
  return [...dimensions, { kind: 'set', name: 'loading', value: 'lazy' }];
}
