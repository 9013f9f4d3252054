import { availableParallelism } from 'node:os';
import { Tinypool } from 'tinypool';

/**
 * GNU malloc keeps freed blocks of this size and more, bytes, unless it is told a fixed limit: processes that handle many large pictures
 * would grow to three times what they use (docs/pricing.md). Other systems ignore it.
 */
const environment = { MALLOC_MMAP_THRESHOLD_: '1048576' };

/** Of one audit after another, as a mend makes them, the second finds the processes of the first: so long they are kept, ms. */
const keptMs = 10_000;

let pool: Tinypool | undefined;
let holders = 0;
let end: NodeJS.Timeout | undefined;

/** The few processes that measure pictures beside this one, started when first asked for. Whoever takes them gives them back. */
export function takeProcesses(): Tinypool {
  holders++;
  clearTimeout(end);
  return (pool ??= new Tinypool({
    runtime: 'child_process',
    serialization: 'advanced',
    env: { ...(process.env as Record<string, string>), ...environment },
    // What loads modules in this process need not do so in the others: they run what is built.
    execArgv: [],
    filename: new URL('./measure-worker.js', import.meta.url).href,
    minThreads: 1,
    maxThreads: Math.min(4, availableParallelism()),
    idleTimeout: keptMs,
  }));
}

/**
 * Gives the processes back. They end a little later, unless somebody takes them until then, and with this process at the latest.
 * @param busy whether they still measure what nobody waits for: then they end at once, unless others have them too
 */
export async function giveBackProcesses(busy: boolean): Promise<void> {
  holders--;
  const own = pool;
  if (!own || holders > 0) return;
  if (busy) await endOf(own);
  else end = setTimeout(() => void endOf(own), keptMs).unref();
}

async function endOf(own: Tinypool): Promise<void> {
  if (pool === own) pool = undefined;
  await own.destroy();
}
