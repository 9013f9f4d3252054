import type { Placement } from '../run/types.js';
import type { Draft, Outcomes } from './check.js';

/** Collects what a check sees, screen by screen, into one draft for each placement. */
export class Drafts<E> {
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
export function worst<E>(
  draft: Draft<E>,
  measure: (evidence: E) => number,
): { screen: string; evidence: E } | undefined {
  let found: { screen: string; evidence: E } | undefined;
  for (const [screen, evidence] of Object.entries(draft.screens))
    if (!found || measure(evidence) > measure(found.evidence)) found = { screen, evidence };
  return found;
}

/** What a change does on the screen where it saves most. */
export interface BestOutcome<E> {
  screen: string;
  evidence: E;
  /** Bytes of one transfer. */
  bytes: number;
  bytesAfter: number;
  /** Device px of the file that is taken afterwards. */
  widthAfter: number;
  format: string;
  formatAfter: string;
  quality: number | null;
}

/** @returns undefined where nothing is fetched on any screen of the draft */
export function bestOutcome<E>(draft: Draft<E>, outcomes: Outcomes): BestOutcome<E> | undefined {
  let best: BestOutcome<E> | undefined;
  for (const [screen, evidence] of Object.entries(draft.screens)) {
    const { before, after } = outcomes[screen] ?? {};
    if (!before) continue;
    const found: BestOutcome<E> = {
      screen,
      evidence,
      bytes: before.bytes,
      bytesAfter: after?.bytes ?? 0,
      widthAfter: after?.file.width ?? 0,
      format: before.file.format,
      formatAfter: after?.file.format ?? before.file.format,
      quality: after?.file.quality ?? null,
    };
    if (!best || found.bytes - found.bytesAfter > best.bytes - best.bytesAfter) best = found;
  }
  return best;
}
