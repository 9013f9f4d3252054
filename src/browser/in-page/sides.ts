import { computedLength } from './computed-length.js';
import { native } from './native.js';
import type { SideFrom } from '../../core/run/placement-types.js';
import { appliesTo, readRules } from './style-rules.js';

type Side = 'width' | 'height';

const logical: Record<Side, string> = { width: 'inline-size', height: 'block-size' };

/** Rules do not change between the measurements of one load. */
const remembered = new WeakMap<Element, Record<Side, boolean>>();

export interface Sides {
  widthFrom: SideFrom;
  heightFrom: SideFrom;
  limitWidth: number | null;
  limitHeight: number | null;
}

/** What gives the box of an element its sides. */
export function sidesOf(element: Element): Sides {
  return {
    widthFrom: sideFrom(element, 'width'),
    heightFrom: sideFrom(element, 'height'),
    limitWidth: limitOf(element, 'width'),
    limitHeight: limitOf(element, 'height'),
  };
}

export const styledSides: Sides = {
  widthFrom: 'style',
  heightFrom: 'style',
  limitWidth: null,
  limitHeight: null,
};

/** What its style lets a side be at most, CSS px. */
function limitOf(element: Element, side: Side): number | null {
  const allowed = native(element).computedStyleMap().get(`max-${side}`);
  const share = allowed?.toString().includes('%') ? roomIn(holderOf(element), side) : 0;
  const limit = share === null ? null : computedLength(allowed, share);
  return limit === null ? null : Math.max(0, limit);
}

/** How wide or high what stands in a block may be, CSS px; null where that follows from what stands in it. */
function roomIn(block: Element | null, side: Side): number | null {
  if (!block) return null;
  const style = getComputedStyle(block);
  const edge = (name: string) => Number.parseFloat(style.getPropertyValue(name)) || 0;
  if (side === 'width') return native(block).clientWidth - edge('padding-left') - edge('padding-right');
  // CSS 2.2, 10.7: of a height that is not given percentages say nothing.
  if (native(block).computedStyleMap().get('height')?.toString() === 'auto') return null;
  return native(block).clientHeight - edge('padding-top') - edge('padding-bottom');
}

/** The block that an element's percentages are of: its parent, unless that is no block. */
export function holderOf(element: Element): Element | null {
  let block = native(element).parentElement;
  while (block && /^(inline|contents)$/.test(getComputedStyle(block).display))
    block = native(block).parentElement;
  return block;
}

function sideFrom(element: Element, side: Side): SideFrom {
  const computed = native(element).computedStyleMap().get(side)?.toString() ?? 'auto';
  if (computed === 'auto') return isStyled(element, side) ? 'auto' : 'nothing';
  return native(element).hasAttribute(side) && !isStyled(element, side) ? 'attribute' : 'style';
}

/** Whether a style says anything of a side, be it `auto`: then an attribute says nothing. */
function isStyled(element: Element, side: Side): boolean {
  const known = remembered.get(element) ?? {
    width: speaks(element, 'width'),
    height: speaks(element, 'height'),
  };
  remembered.set(element, known);
  return known[side];
}

/** The sides of which a style says anything, as it stands now. */
export const styledSidesOf = (element: Element): Side[] =>
  (['width', 'height'] as const).filter((side) => speaks(element, side));

const holds = (style: CSSStyleDeclaration, side: Side) =>
  style.getPropertyValue(side) !== '' || style.getPropertyValue(logical[side]) !== '';

type Rules = ReturnType<typeof readRules>;

/** The page's rules, and those of them that say something of a side: few of thousands, and asked for with each image. */
let sorted: { all: Rules; of: Partial<Record<Side, Rules>> } = { all: [], of: {} };

function rulesOfSide(side: Side): Rules {
  const all = readRules();
  if (sorted.all !== all) sorted = { all, of: {} };
  return (sorted.of[side] ??= all.filter(({ style }) => holds(style, side)));
}

function speaks(element: Element, side: Side): boolean {
  if (element instanceof HTMLElement && holds(native(element).style, side)) return true;
  return rulesOfSide(side).some((rule) => appliesTo(element, rule));
}
