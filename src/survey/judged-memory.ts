import { createHash } from 'node:crypto';
import { keyOf } from '../cache/index.js';
import type { World } from '../core/judging/facts.js';
import type { PicturePrice } from '../core/run/index.js';
import type { AuditContext } from './context.js';

/**
 * Remembers what follows from judging the whole site by the prices that are known, whether the order of the first fixes is settled for
 * instance: that is asked after each round of encodes, and of a site that has not changed it takes longer than all else.
 */
export class JudgedMemory {
  #world: string | undefined;

  constructor(
    readonly context: Pick<AuditContext, 'kept' | 'memory' | 'options'>,
    readonly world: World,
  ) {}

  /**
   * @param question what is asked, with all that the answer depends on beside the world and the prices
   * @param fits tells whether a kept answer is of the right kind
   * @param judge answers it; undefined where that failed, which is not kept
   */
  async remember<Answer>(
    question: readonly unknown[],
    prices: ReadonlyMap<string, PicturePrice>,
    fits: (value: unknown) => value is Answer,
    judge: () => Answer | undefined,
  ): Promise<Answer | undefined> {
    const { kept, memory } = this.context;
    if (kept.folder === undefined) return judge();
    const measured = [...prices.values()].sort((a, b) => (a.url < b.url ? -1 : 1));
    const key = keyOf('known', ...question, memory.version, this.#hashOfWorld(), measured);
    const known = await kept.get(key);
    if (fits(known)) return known;
    const answer = judge();
    if (answer !== undefined) await kept.put(key, answer);
    return answer;
  }

  /** Of all that a judgement is made from but the prices. */
  #hashOfWorld(): string {
    if (this.#world !== undefined) return this.#world;
    const { screens, pages, placements, files, twins, sweeps, names, wishes, reach, lazyDistance } =
      this.world;
    const { exceptions, today } = this.context.options;
    const hash = createHash('sha256');
    // Page by page: all in one text would take as much memory once more. What was read at once stands in the order in which it came.
    for (const part of [...pages, ...placements, ...sorted(files), ...sorted(twins), ...sorted(sweeps)])
      hash.update(JSON.stringify(part));
    const rest = [
      screens,
      [...names],
      { ...wishes, sharpness: String(wishes.sharpness) },
      reach,
      lazyDistance,
    ];
    hash.update(JSON.stringify([...rest, exceptions, today]));
    return (this.#world = hash.digest('hex'));
  }
}

const sorted = <Value>(byName: ReadonlyMap<string, Value>): [string, Value][] =>
  [...byName].sort(([a], [b]) => (a < b ? -1 : 1));
