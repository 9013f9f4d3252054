/**
 * Runs in the page's own world before any of its scripts. Timers of a second and more are kept until the page is quiet, and then run
 * ahead one by one: else what a slideshow has shown would depend on how fast this machine is.
 */

interface KeptTimer {
  id: number;
  dueMs: number;
  /** Undefined for one that runs once. */
  everyMs: number | undefined;
  run: () => void;
}

/** Shorter ones belong to the loading of a page, and run as always. */
const keptFromMs = 1000;
/** Their numbers begin where those of the browser never get. */
const firstId = 1_000_000_000;

const natives = {
  setTimeout: setTimeout.bind(globalThis),
  setInterval: setInterval.bind(globalThis),
  clearTimeout: clearTimeout.bind(globalThis),
  clearInterval: clearInterval.bind(globalThis),
};

const kept = new Map<number, KeptTimer>();
let nextId = firstId;
/** How far the kept timers have been run ahead, ms. */
let now = 0;

function keep(handler: TimerHandler, delay: number, repeats: boolean, parameters: unknown[]): number {
  const id = nextId++;
  const run = () => {
    if (typeof handler === 'function') Reflect.apply(handler, globalThis, parameters);
    else natives.setTimeout(handler, 0);
  };
  kept.set(id, { id, dueMs: now + delay, everyMs: repeats ? delay : undefined, run });
  return id;
}

const isLong = (delay: unknown): delay is number => Number(delay) >= keptFromMs;

const patched = {
  setTimeout: (handler: TimerHandler, delay?: number, ...parameters: unknown[]) =>
    isLong(delay)
      ? keep(handler, Number(delay), false, parameters)
      : natives.setTimeout(handler, delay, ...parameters),
  setInterval: (handler: TimerHandler, delay?: number, ...parameters: unknown[]) =>
    isLong(delay)
      ? keep(handler, Number(delay), true, parameters)
      : natives.setInterval(handler, delay, ...parameters),
  clearTimeout: (id?: number) => {
    if (id === undefined || !kept.delete(id)) natives.clearTimeout(id);
  },
  clearInterval: (id?: number) => {
    if (id === undefined || !kept.delete(id)) natives.clearInterval(id);
  },
};
// Frames are left as they are: only the page itself is run ahead.
if (globalThis.top === globalThis.self) Object.assign(globalThis, patched);

/** Runs the timer that is due next, if it is due by then; the ones due at the same moment with it. */
function runNext(untilMs: number): boolean {
  const due = [...kept.values()].filter(({ dueMs }) => dueMs <= untilMs);
  if (due.length === 0) return false;
  now = Math.min(...due.map(({ dueMs }) => dueMs));
  for (const timer of due.filter(({ dueMs }) => dueMs === now).sort((a, b) => a.id - b.id)) {
    if (!kept.has(timer.id)) continue;
    if (timer.everyMs === undefined) kept.delete(timer.id);
    else timer.dueMs += timer.everyMs;
    try {
      timer.run();
    } catch (cause) {
      // As a timer of the browser would: the page's error is the page's.
      reportError(cause);
    }
  }
  return true;
}

Object.defineProperty(globalThis, Symbol.for('yukkuri timers'), { value: { runNext } });
