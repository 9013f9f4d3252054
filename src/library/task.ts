import type { Progress } from '../survey/index.js';

/** What a task has just begun or done. */
export interface ProgressEvent {
  /** `visits`, `sweeps`, `pictures`, `views`, `details`, `files` or `layouts`. */
  stage: string;
  done: number;
  total: number;
  /** The page or the file that was done last, where it is known. */
  what?: string | undefined;
}

/** Work that takes its time: a promise of its result, and what it does meanwhile. */
export interface Task<Result> extends Promise<Result> {
  /** Ends when the work ends. Nothing is lost if it is read late, and nothing waits if it is never read. */
  readonly progress: AsyncIterable<ProgressEvent>;
}

/** Events that were told and not read yet. Only the latest of each stage is kept: a reader wants to know where things stand. */
class EventQueue implements AsyncIterable<ProgressEvent> {
  readonly #waiting = new Map<string, ProgressEvent>();
  #wake: (() => void) | undefined;
  #ended = false;

  put(event: ProgressEvent): void {
    this.#waiting.set(event.stage, event);
    this.#wake?.();
  }

  end(): void {
    this.#ended = true;
    this.#wake?.();
  }

  async *[Symbol.asyncIterator](): AsyncIterator<ProgressEvent> {
    for (;;) {
      const [first] = this.#waiting;
      if (first) {
        this.#waiting.delete(first[0]);
        yield first[1];
      } else if (this.#ended) return;
      else await new Promise<void>((wake) => (this.#wake = wake));
    }
  }
}

/**
 * Begins work and tells of it.
 * @param signal when it is aborted, what was begun is finished and its result thrown away
 * @throws whatever the signal gives as its reason, once it is aborted
 */
export function begin<Result>(
  signal: AbortSignal | undefined,
  work: (progress: Progress) => Promise<Result>,
): Task<Result> {
  const events = new EventQueue();
  let stage = '';
  let [done, total] = [0, 0];
  const progress: Progress = {
    begin(name, amount) {
      [stage, done, total] = [name, 0, amount];
      events.put({ stage, done, total });
    },
    step(what) {
      done++;
      events.put({ stage, done, total, what });
    },
  };
  const result = (async () => {
    signal?.throwIfAborted();
    try {
      const made = await work(progress);
      signal?.throwIfAborted();
      return made;
    } finally {
      events.end();
    }
  })();
  return Object.assign(result, { progress: events });
}
