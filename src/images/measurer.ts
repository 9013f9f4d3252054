import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import type { MeasuredCache } from './measured-cache.js';
import type { MeasureOrder } from './measure-order.js';
import type { Measured } from './measure.js';

/** Longest time for all encodes of one picture, ms. */
const limitMs = 180_000;

/** Measures pictures in a few worker threads, and remembers what it measured. */
export class Measurer {
  #pool: Piscina | undefined;

  constructor(readonly cache: MeasuredCache) {}

  /**
   * @param read gives the file's content; not called for what is remembered
   * @throws {Error} when the picture does not decode or takes too long
   */
  measure(hash: string, order: MeasureOrder, read: () => Promise<Buffer>): Promise<Measured> {
    return this.cache.remember(hash, order, isMeasured, async () => {
      const signal = AbortSignal.timeout(limitMs);
      try {
        return (await this.#workers().run({ content: await read(), order }, { signal })) as Measured;
      } catch (cause) {
        if (signal.aborted) throw new Error(`encoding it took longer than ${limitMs / 1000} s`, { cause });
        throw cause;
      }
    });
  }

  #workers(): Piscina {
    return (this.#pool ??= new Piscina({
      filename: new URL('./measure-worker.js', import.meta.url).href,
      minThreads: 1,
      maxThreads: Math.min(4, availableParallelism()),
      idleTimeout: 1000,
    }));
  }

  async close(): Promise<void> {
    await this.#pool?.destroy();
    this.#pool = undefined;
  }
}

function isMeasured(value: unknown): value is Measured {
  const { alike, formats, content } = (value ?? {}) as Partial<Measured>;
  return Array.isArray(alike) && typeof formats === 'object' && typeof content === 'string';
}
