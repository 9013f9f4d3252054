import type { Placement } from '../run/types.js';
import type { Plan } from './plan.js';

/**
 * What is edited at once: the tag of one template, one rule, one link. Images of one template whose slots are not the same need another
 * text each.
 */
export function unitOf(placement: Placement, plan: Plan): string {
  const { kind, template, markup, source, id, style } = placement;
  const sweep = plan.input.sweeps.get(id);
  switch (kind) {
    case 'css-image':
      // A rule that several pages hold in a style element of their own is one rule all the same.
      return `style ${source ? markup : id} ${style?.layer ?? 0}`;
    case 'preload':
    case 'icon-link':
      return `link ${template}`;
    default:
      return JSON.stringify(['tag', kind, template, sweep?.write ?? null, sweep?.constant ?? null]);
  }
}
