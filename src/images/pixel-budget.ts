/**
 * Lets work begin only while all that is under way keeps within a budget, in the order in which it was asked for. Work that is larger
 * than the whole budget runs alone.
 */
export class PixelBudget {
  #free: number;
  readonly #waiting: { pixels: number; start: () => void }[] = [];

  constructor(readonly size: number) {
    this.#free = size;
  }

  async run<Result>(pixels: number, work: () => Promise<Result>): Promise<Result> {
    // Whole numbers: parts of pixels would not add up to the size again, and what needs all of it would wait for ever.
    const cost = Math.min(Math.ceil(pixels), this.size);
    if (this.#waiting.length > 0 || cost > this.#free)
      await new Promise<void>((start) => this.#waiting.push({ pixels: cost, start }));
    else this.#free -= cost;
    try {
      return await work();
    } finally {
      this.#free += cost;
      this.#startWaiting();
    }
  }

  #startWaiting(): void {
    for (let first = this.#waiting[0]; first && first.pixels <= this.#free; first = this.#waiting[0]) {
      this.#waiting.shift();
      this.#free -= first.pixels;
      first.start();
    }
  }
}
