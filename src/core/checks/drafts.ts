import type { Placement } from '../run/types.js';
import type { Draft, Evidence } from './check.js';

/** Collects what a check sees, screen by screen, into one draft for each placement. */
export class Drafts<E extends Evidence> {
  readonly #byPlacement = new Map<string, Draft<E>>();

  add(placement: Placement, screen: string, evidence: E): void {
    const draft = this.#byPlacement.get(placement.id) ?? { placement, screens: {} };
    draft.screens[screen] = evidence;
    this.#byPlacement.set(placement.id, draft);
  }

  list(): Draft<E>[] {
    return [...this.#byPlacement.values()];
  }
}

/** The screen with the largest value, the first of equal ones; undefined for none. */
export function worst<E extends Evidence>(
  draft: Draft<E>,
  measure: (evidence: E) => number,
): { screen: string; evidence: E } | undefined {
  let found: { screen: string; evidence: E } | undefined;
  for (const [screen, evidence] of Object.entries(draft.screens))
    if (!found || measure(evidence) > measure(found.evidence)) found = { screen, evidence };
  return found;
}
