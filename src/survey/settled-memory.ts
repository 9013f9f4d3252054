import { createHash } from 'node:crypto';
import { keyOf } from '../cache/index.js';
import type { World } from '../core/judging/facts.js';
import type { WantedPrice } from '../core/pricing/pricing-plan.js';
import type { PicturePrice } from '../core/run/index.js';
import type { AuditContext } from './context.js';

/**
 * Remembers whether the order of the first fixes was settled: to know it the whole site is judged, after each round of encodes, which of a site
 * that has not changed takes longer than all else.
 */
export class SettledMemory {
  #world: string | undefined;

  constructor(
    readonly context: Pick<AuditContext, 'kept' | 'memory' | 'options'>,
    readonly world: World,
  ) {}

  /**
   * @param judge tells it; undefined where that failed, which is not kept
   */
  async remember(
    prices: readonly PicturePrice[],
    rest: readonly WantedPrice[],
    judge: () => boolean | undefined,
  ): Promise<boolean> {
    const { kept, memory } = this.context;
    if (kept.folder === undefined) return judge() ?? false;
    const left = rest.map(({ file, stake }) => [file.url, stake]);
    const key = keyOf('known', 'settled', memory.version, this.#hashOfWorld(), prices, left);
    const known = await kept.get(key);
    if (typeof known === 'boolean') return known;
    const settled = judge();
    if (settled !== undefined) await kept.put(key, settled);
    return settled ?? false;
  }

  /** Of all that a judgement is made from but the prices. */
  #hashOfWorld(): string {
    if (this.#world !== undefined) return this.#world;
    const { screens, pages, placements, files, twins, sweeps, names, wishes, reach, lazyDistance } =
      this.world;
    const { exceptions, today } = this.context.options;
    const hash = createHash('sha256');
    // Page by page: all in one text would take as much memory once more.
    for (const part of [...pages, ...placements, ...files, ...twins, ...sweeps])
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
