import { naturalSize, readImageMarkup } from '../markup/index.js';
import type { TagEdit } from '../plan/tag.js';
import { attributeOf } from '../plan/tag.js';
import type { Placement } from '../run/types.js';
import type { Facts } from './facts.js';

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
 * another shape those of the crop. Where an attribute would give the box another side than it has, a style keeps that side free.
 */
export function dimensionEdits(placement: Placement, facts: Facts): TagEdit[] {
  const size = naturalSizeOf(placement, facts);
  if (!size || !readImageMarkup(placement.markup) || !widthHolds(placement, size, facts)) return [];
  const edits: TagEdit[] = [
    { kind: 'set', name: 'width', value: String(Math.round(size.width)) },
    { kind: 'set', name: 'height', value: String(Math.round(size.height)) },
  ];
  for (const side of freeSides(placement, size, facts))
    edits.push({ kind: 'add-style', declaration: `${side}: auto` });
  return [...edits, ...cropEdits(placement, size, facts)];
}

/**
 * Whether boxes stay as wide as they are once an attribute says the width: where nothing said it they are as wide as their file is laid
 * out, which with width descriptors is another width on each screen, or as a style lets them be.
 */
function widthHolds(placement: Placement, size: { width: number }, { plan, screens }: Facts): boolean {
  return screens.every(({ name }) => {
    const [shown, slot, taken] = [
      placement.shown[name],
      placement.slots[name],
      plan.taken(placement, name, 0),
    ];
    if (!shown || !slot || slot.width === 0 || !taken || shown.widthFrom !== 'nothing') return true;
    if (shown.heightFrom === 'style' || shown.heightFrom === 'attribute') return true;
    const then = Math.min(size.width, shown.limitWidth ?? Number.POSITIVE_INFINITY);
    if (Math.abs(then - slot.width) <= 1) return true;
    // Something that is not known holds it: a file that is larger still changes nothing.
    const natural = taken.file.width / taken.density;
    return slot.width < Math.min(natural, shown.limitWidth ?? natural) - 1 && size.width >= natural;
  });
}

/** Dimensions for the sources whose crops have another shape than a size. */
export function cropEdits(
  placement: Placement,
  size: { width: number; height: number },
  facts: Facts,
): TagEdit[] {
  const image = (facts.plan.stateOf(placement, 0)?.sources.length ?? 1) - 1;
  return [...naturalSizes(placement, facts)].flatMap(([index, crop]): TagEdit[] => {
    if (index === image || Math.abs(shape(crop) / shape(size) - 1) <= otherShape) return [];
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
 * The sides of a box which nothing gives, so that a style has to keep them free: an attribute would give them. A box that is as large as
 * its file on every screen has none.
 */
function freeSides(
  placement: Placement,
  size: { width: number; height: number },
  { screens }: Facts,
): ('width' | 'height')[] {
  let [width, height] = [false, false];
  for (const { name } of screens) {
    const [shown, slot] = [placement.shown[name], placement.slots[name]];
    if (!shown || !slot || slot.width === 0) continue;
    const asLarge = Math.abs(slot.width - size.width) < 1 && Math.abs(slot.height - size.height) < 1;
    if (asLarge) continue;
    if (shown.heightFrom === 'nothing') height = true;
    if (shown.widthFrom === 'nothing' && shown.heightFrom !== 'nothing' && shown.heightFrom !== 'auto')
      width = true;
  }
  return [...(width ? (['width'] as const) : []), ...(height ? (['height'] as const) : [])];
}

const isDimension = (value: string | null | undefined) => /^\s*\d+/.test(value ?? '');

/** Whether a tag states both dimensions. HTML standard, 4.8.16 "Dimension attributes": valid non-negative integers. */
export function hasDimensions({ markup }: Pick<Placement, 'markup'>): boolean {
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
  // Without room it would only be another fault.
  if (!room && !hasDimensions(placement) && dimensions.length === 0) return [];
  return [...dimensions, { kind: 'set', name: 'loading', value: 'lazy' }];
}
