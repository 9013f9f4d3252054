/** So many requests in the second half of the time are a page that never gets quiet; fewer are a slow one. */
const leastBegun = 3;

/** How long a page is given to get quiet. A page that is only slow is given more. */
export class Patience {
  /** `performance.now`. */
  until: number;
  #half: number;
  #atHalf: number | undefined;

  constructor(private readonly lengthMs: number) {
    this.until = performance.now() + lengthMs;
    this.#half = performance.now() + lengthMs / 2;
  }

  /** @param started requests that have begun so far */
  isOver(started: number): boolean {
    const now = performance.now();
    if (now < this.#half) return false;
    this.#atHalf ??= started;
    if (now < this.until) return false;
    if (started - this.#atHalf >= leastBegun) return true;
    this.#half = now + this.lengthMs / 2;
    this.until = now + this.lengthMs;
    this.#atHalf = undefined;
    return false;
  }
}
