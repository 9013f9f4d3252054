import type { Tinypool } from 'tinypool';
import type { MeasuredCache } from './measured-cache.js';
import type { Measured, MeasureOrder } from './measure-order.js';
import { giveBackProcesses, takeProcesses } from './measuring-processes.js';
import { PixelBudget } from './pixel-budget.js';

/** Longest time for all encodes of one picture, ms. */
const limitMs = 180_000;

/** Pixels of the largest widths that are encoded at once: encoders and comparisons take about 50 bytes for each. */
const mostPixelsAtOnce = 6_000_000;

const largestPixels = ({ widths, settings = [], width, height }: MeasureOrder) =>
  (Math.max(0, ...widths, ...settings.map((each) => each.width)) ** 2 * height) / Math.max(1, width);

/** Measures pictures in a few processes beside this one, and remembers what it measured. */
export class Measurer {
  #processes: Tinypool | undefined;
  #running = 0;
  readonly #budget = new PixelBudget(mostPixelsAtOnce);

  /** @param work does one measurement; in processes of their own if left out */
  constructor(
    readonly cache: MeasuredCache,
    readonly work?: ((content: Buffer, order: MeasureOrder) => Promise<Measured>) | undefined,
  ) {}

  /**
   * @param read gives the file's content; not called for what is remembered
   * @throws {Error} when the picture does not decode or takes too long
   */
  measure(hash: string, order: MeasureOrder, read: () => Promise<Buffer>): Promise<Measured> {
    const run = () => this.#budget.run(largestPixels(order), () => this.#run(order, read));
    return this.cache.remember(hash, order, isMeasured, run);
  }

  async #run(order: MeasureOrder, read: () => Promise<Buffer>): Promise<Measured> {
    const signal = AbortSignal.timeout(limitMs);
    this.#running++;
    try {
      if (this.work) return await this.work(await read(), order);
      this.#processes ??= takeProcesses();
      return (await this.#processes.run({ content: await read(), order }, { signal })) as Measured;
    } catch (cause) {
      if (signal.aborted) throw new Error(`encoding it took longer than ${limitMs / 1000} s`, { cause });
      throw cause;
    } finally {
      this.#running--;
    }
  }

  async close(): Promise<void> {
    if (this.#processes) await giveBackProcesses(this.#running > 0);
    this.#processes = undefined;
  }
}

function isMeasured(value: unknown): value is Measured {
  const { alike, formats, content } = (value ?? {}) as Partial<Measured>;
  return Array.isArray(alike) && typeof formats === 'object' && typeof content === 'string';
}
