import type { BrowserProcess } from './browser-process.js';

/** Of one audit after another, as a mend makes them, the next finds the browser of the one before: so long it is kept, ms. */
const keptMs = 10_000;

interface Kept {
  own: BrowserProcess;
  key: string;
  timer: NodeJS.Timeout;
}

let kept: Kept | undefined;

const kill = () => kept?.own.kill();

/**
 * Keeps a browser process that nobody needs for now. It ends a little later, and with this process at the latest.
 * @param key what it was started with
 */
export async function keepProcess(own: BrowserProcess, key: string): Promise<void> {
  await endKeptProcess();
  const timer = setTimeout(() => void endKeptProcess(), keptMs).unref();
  kept = { own, key, timer };
  own.setNeeded(false);
  // Before its files are removed.
  process.prependListener('exit', kill);
}

/**
 * The process that was kept, if it was started with the same and runs.
 * @param mostTabs that it may have had
 */
export async function takeKeptProcess(key: string, mostTabs: number): Promise<BrowserProcess | undefined> {
  if (kept?.key !== key || kept.own.tabsGiven >= mostTabs) return undefined;
  const own = letGo(kept);
  if (await own.stillRuns()) return own;
  await own.close();
  return undefined;
}

/** Ends the process that is kept, if any. */
export async function endKeptProcess(): Promise<void> {
  if (kept) await letGo(kept).close();
}

function letGo({ own, timer }: Kept): BrowserProcess {
  clearTimeout(timer);
  kept = undefined;
  process.off('exit', kill);
  own.setNeeded(true);
  return own;
}
