import type { Incomplete, Placement } from '../run/types.js';
import { causeInWords } from '../wording/words.js';

/** Where something was done that failed. */
export type FaultPlace = Pick<Placement, 'page'> & Partial<Pick<Placement, 'selector'>>;

/** Faults of the program that were caught: each costs what it touched, and all else goes on. */
export class Faults {
  readonly #noted = new Map<string, Incomplete>();

  /** What was noted, each once, in the order in which it was. */
  get list(): Incomplete[] {
    return [...this.#noted.values()];
  }

  /**
   * Notes a fault.
   * @param what was being done, in the user's words: `the check "no-dimensions"`
   */
  note(what: string, { page, selector }: FaultPlace, cause: unknown): void {
    const where = selector === undefined ? '' : ` at ${selector}`;
    const why = `${what} failed${where}: ${causeInWords(cause)}. This is a fault of Yukkuri: please report it with this line`;
    const key = JSON.stringify([page, why]);
    if (!this.#noted.has(key)) this.#noted.set(key, { page, screen: null, why });
  }

  /** Does something; if that throws, notes it and gives nothing. */
  attempt<Result>(what: string, place: FaultPlace, work: () => Result): Result | undefined {
    try {
      return work();
    } catch (cause) {
      this.note(what, place, cause);
      return undefined;
    }
  }
}
