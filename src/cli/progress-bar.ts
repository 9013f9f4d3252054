import { SingleBar } from 'cli-progress';
import type { Progress } from '../survey/index.js';
import type { Io } from './io.js';

/** Progress on standard error: a bar on a terminal, a line for each stage elsewhere. */
export class ProgressBar implements Progress {
  #bar: SingleBar | undefined;

  constructor(readonly io: Io) {}

  begin(stage: string, total: number): void {
    this.end();
    if (total === 0) return;
    if (!this.io.err.isTerminal) {
      this.io.err.write(`${stage}: ${total}\n`);
      return;
    }
    this.#bar = new SingleBar({
      format: `${stage.padEnd(8)} {bar} {value} of {total}, {eta_formatted} left`,
      barCompleteChar: '█',
      barIncompleteChar: '░',
      barsize: 30,
      hideCursor: true,
      clearOnComplete: true,
      stream: process.stderr,
    });
    this.#bar.start(total, 0);
  }

  step(): void {
    this.#bar?.increment();
  }

  end(): void {
    this.#bar?.stop();
    this.#bar = undefined;
  }
}
