import type { Began } from '../run/index.js';

/** Where a lazy image lies, and when its download began. CSS px. */
export interface SeenStart {
  y: number;
  began: Began;
  scrollDepth: number;
}

/** When lazy images begin, by how far down they lie: as those did that lie nearest. */
export class LazyStart {
  readonly #seen: readonly SeenStart[];

  constructor(seen: readonly SeenStart[]) {
    this.#seen = [...seen].sort((a, b) => a.y - b.y || a.scrollDepth - b.scrollDepth);
  }

  /** @returns undefined where no lazy image was seen to begin */
  startAt(y: number): SeenStart | undefined {
    const distance = (each: SeenStart) => Math.abs(each.y - y);
    return this.#seen.length === 0
      ? undefined
      : this.#seen.reduce((a, b) => (distance(b) < distance(a) ? b : a));
  }
}
