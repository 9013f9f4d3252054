import { clearScreenDown, moveCursor } from 'node:readline';
import { SingleBar } from 'cli-progress';
import { bytesInWords } from '../core/wording/words.js';
import type { EarlyFix, Progress } from '../survey/index.js';
import { plainText } from '../report/plain-text.js';
import type { Io } from './io.js';

/** Progress on standard error: a bar on a terminal, with the first fixes above it as they rank by now; a line for each stage elsewhere. */
export class ProgressBar implements Progress {
  #bar: SingleBar | undefined;
  #stage = '';
  #total = 0;
  #begunAtMs = 0;
  #done = 0;
  /** Lines of the ranking that stand above the bar. */
  #lines = 0;
  readonly ranking: ((fixes: readonly EarlyFix[]) => void) | undefined;

  constructor(readonly io: Io) {
    // Nobody would see it take shape elsewhere.
    if (io.err.isTerminal) this.ranking = (fixes) => this.#rank(fixes);
  }

  begin(stage: string, total: number): void {
    this.#stop();
    this.#stage = stage;
    this.#total = total;
    if (total === 0) return;
    if (!this.io.err.isTerminal) {
      this.io.err.write(`${stage}: ${total}\n`);
      return;
    }
    this.#begunAtMs = performance.now();
    this.#done = 0;
    this.#draw();
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
    this.#stop();
    this.#erase();
  }

  #draw(): void {
    this.#bar = new SingleBar({
      format: `${this.#stage.padEnd(8)} {bar} {value} of {total}{rate}, {eta_formatted} left{current}`,
      barCompleteChar: '█',
      barIncompleteChar: '░',
      barsize: 30,
      hideCursor: true,
      clearOnComplete: true,
      stream: process.stderr,
    });
    this.#bar.start(this.#total, this.#done, { rate: '', current: '' });
  }

  #stop(): void {
    this.#bar?.stop();
    this.#bar = undefined;
  }

  #rank(fixes: readonly EarlyFix[]): void {
    const isRunning = this.#bar !== undefined;
    this.#stop();
    this.#erase();
    const lines = rankingLines(fixes, this.io.err.columns);
    for (const line of lines) this.io.err.write(`${line}\n`);
    this.#lines = lines.length;
    if (isRunning) this.#draw();
  }

  #erase(): void {
    if (this.#lines === 0) return;
    moveCursor(process.stderr, 0, -this.#lines);
    clearScreenDown(process.stderr);
    this.#lines = 0;
  }
}

/** The first fixes as they rank by now, each on one line. */
export function rankingLines(fixes: readonly EarlyFix[], columns: number): string[] {
  if (fixes.length === 0) return [];
  const rows = fixes.map(({ title, saves, isEstimate }, index) => {
    const end = `  ${isEstimate ? 'about ' : ''}${bytesInWords(saves)} a visit`;
    const start = `${index + 1}. `;
    const room = Math.max(10, columns - 1 - start.length - end.length);
    return `${start}${fitted(plainText(title), room)}${end}`;
  });
  return ['First in the list so far; what is not encoded yet is an estimate:'.slice(0, columns - 1), ...rows];
}

/** From here on characters are as wide as two in a terminal: a line must not be broken, or it could not be taken back. */
const firstWide = 0x1100;

/** A text that takes just so many columns. */
function fitted(text: string, columns: number): string {
  let used = 0;
  let kept = '';
  for (const character of text) {
    const width = (character.codePointAt(0) ?? 0) >= firstWide && character !== '…' ? 2 : 1;
    if (used + width > columns - 1) {
      kept += '…';
      used++;
      break;
    }
    kept += character;
    used += width;
  }
  return kept + ' '.repeat(Math.max(0, columns - used));
}

const shortened = (text: string, room: number) =>
  text.length > room ? `…${text.slice(text.length - room + 1)}` : text;
