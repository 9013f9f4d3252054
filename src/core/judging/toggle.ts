import { shareInFirstView } from '../layout/fold.js';
import { pageView } from '../layout/view-of.js';
import { attributeOf } from '../plan/tag.js';
import type { Placement } from '../run/types.js';
import type { Facts } from './facts.js';
import { placementsOn } from './page-placements.js';

const isImage = ({ kind }: Placement) => kind === 'img' || kind === 'picture';
const parentOf = (selector: string) => selector.slice(0, Math.max(0, selector.lastIndexOf(' > ')));
const seenOn = ({ shown }: Placement, screen: string) => shown[screen]?.seen === true;

/**
 * The image that stands in the place of another on the other screens: of two side by side each screen shows exactly one, by a style. Of several
 * that could be it, it is the one that stands nearest in the document, if this one is nearest to that one too.
 */
export function toggledWith(placement: Placement, facts: Facts): Placement | undefined {
  const partner = nearestToggled(placement, facts);
  return partner && nearestToggled(partner, facts) === placement ? partner : undefined;
}

function nearestToggled(placement: Placement, { placements, screens }: Facts): Placement | undefined {
  if (!isImage(placement)) return undefined;
  const own = placementsOn(placement.page, placements);
  const at = own.indexOf(placement);
  let nearest: { other: Placement; distance: number } | undefined;
  for (const [index, other] of own.entries()) {
    const distance = Math.abs(index - at);
    if (distance === 0 || (nearest && nearest.distance <= distance)) continue;
    if (isImage(other) && isNear(placement, other) && takesTurns(placement, other, screens))
      nearest = { other, distance };
  }
  return nearest?.other;
}

function takesTurns(one: Placement, other: Placement, screens: Facts['screens']): boolean {
  const both = screens.map(({ name }) => [seenOn(one, name), seenOn(other, name)] as const);
  return (
    both.every(([own, theirs]) => own !== theirs) &&
    both.some(([own]) => own) &&
    both.some(([, theirs]) => theirs)
  );
}

/** Side by side, or each in a wrapping of its own side by side. */
function isNear(one: Placement, other: Placement): boolean {
  const [mine, theirs] = [parentOf(one.selector), parentOf(other.selector)];
  return mine === theirs || (parentOf(mine) !== '' && parentOf(mine) === parentOf(theirs));
}

/** Whether an image is in the first view of any screen: lazy for one it would be lazy for all. */
export const isInSomeFirstView = (placement: Placement, { screens }: Pick<Facts, 'screens'>): boolean =>
  screens.some((screen) => {
    const shown = placement.shown[screen.name];
    const slot = shown?.seen ? shown.beforeScroll : null;
    return slot !== null && slot !== undefined && shareInFirstView(slot, pageView(placement, screen)) > 0;
  });

/**
 * One picture in the place of two images of which a style shows one, as text.
 * @returns undefined where it is not known at which width of the viewport they change, or their tags offer more than files
 */
export function onePicture(one: Placement, other: Placement, { sweeps }: Facts): string | undefined {
  const stretch = ({ id }: Placement) => {
    const pieces = sweeps.get(id)?.pieces ?? [];
    const [from, to] = [
      Math.min(...pieces.map((piece) => piece.from)),
      Math.max(...pieces.map((piece) => piece.to)),
    ];
    return pieces.length > 0 ? { from, to } : undefined;
  };
  const [first, second] = [stretch(one), stretch(other)];
  if (!first || !second || one.kind !== 'img' || other.kind !== 'img') return undefined;
  const [narrow, wide, at] = first.to < second.from ? [one, other, first.to] : [other, one, second.to];
  const gap = Math.max(first.from, second.from) - Math.min(first.to, second.to);
  if (gap !== 1) return undefined;
  const files = attributeOf(narrow.markup, 'srcset') ?? attributeOf(narrow.markup, 'src');
  if (files === undefined) return undefined;
  const also = ['sizes', 'width', 'height'].flatMap((name) => {
    const value = attributeOf(narrow.markup, name);
    return value === undefined ? [] : [` ${name}="${value}"`];
  });
  return `<picture><source media="(max-width: ${at}px)" srcset="${files}"${also.join('')}>${wide.markup}</picture>`;
}
