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
}

/** What gives the box of an element its sides. */
export function sidesOf(element: Element): Sides {
  return {
    widthFrom: sideFrom(element, 'width'),
    heightFrom: sideFrom(element, 'height'),
    limitWidth: limitOf(element),
  };
}

export const styledSides: Sides = { widthFrom: 'style', heightFrom: 'style', limitWidth: null };

function limitOf(element: Element): number | null {
  const allowed = native(element).computedStyleMap().get('max-width');
  const share = allowed?.toString().includes('%') ? roomIn(holderOf(element)) : 0;
  const limit = share === null ? null : computedLength(allowed, share);
  return limit === null ? null : Math.max(0, limit);
}

/** How wide what stands in a block may be, CSS px. */
function roomIn(block: Element | null): number | null {
  if (!block) return null;
  const style = getComputedStyle(block);
  const side = (name: string) => Number.parseFloat(style.getPropertyValue(name)) || 0;
  return native(block).clientWidth - side('padding-left') - side('padding-right');
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

const holds = (style: CSSStyleDeclaration, side: Side) =>
  style.getPropertyValue(side) !== '' || style.getPropertyValue(logical[side]) !== '';

function speaks(element: Element, side: Side): boolean {
  if (element instanceof HTMLElement && holds(native(element).style, side)) return true;
  return readRules().some((rule) => holds(rule.style, side) && appliesTo(element, rule));
}
