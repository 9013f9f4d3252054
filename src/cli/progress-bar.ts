import { SingleBar } from 'cli-progress';
import type { Progress } from '../survey/index.js';
import { plainText } from '../report/plain-text.js';
import type { Io } from './io.js';

/** Progress on standard error: a bar on a terminal, a line for each stage elsewhere. */
export class ProgressBar implements Progress {
  #bar: SingleBar | undefined;
  #begunAtMs = 0;
  #done = 0;

  constructor(readonly io: Io) {}

  begin(stage: string, total: number): void {
    this.end();
    if (total === 0) return;
    if (!this.io.err.isTerminal) {
      this.io.err.write(`${stage}: ${total}\n`);
      return;
    }
    this.#bar = new SingleBar({
      format: `${stage.padEnd(8)} {bar} {value} of {total}{rate}, {eta_formatted} left{current}`,
      barCompleteChar: '█',
      barIncompleteChar: '░',
      barsize: 30,
      hideCursor: true,
      clearOnComplete: true,
      stream: process.stderr,
    });
    this.#begunAtMs = performance.now();
    this.#done = 0;
    this.#bar.start(total, 0, { rate: '', current: '' });
  }

  step(what?: string): void {
    this.#done++;
    const seconds = (performance.now() - this.#begunAtMs) / 1000;
    const rate = seconds > 1 ? `, ${(this.#done / seconds).toFixed(1)} a second` : '';
    // What does not fit on the line would leave lines behind.
    const room = this.io.err.columns - 80;
    const current = what === undefined || room < 10 ? '' : `  ${shortened(plainText(what), room)}`;
    this.#bar?.increment({ rate, current });
  }

  end(): void {
    this.#bar?.stop();
    this.#bar = undefined;
  }
}

const shortened = (text: string, room: number) =>
  text.length > room ? `…${text.slice(text.length - room + 1)}` : text;
