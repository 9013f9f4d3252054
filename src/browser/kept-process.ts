import type { BrowserProcess } from './browser-process.js';

/** Of one audit after another, as a mend makes them, the next finds the browser of the one before: so long it is kept, ms. */
const keptMs = 10_000;

interface Kept {
  process: BrowserProcess;
  key: string;
  timer: NodeJS.Timeout;
}

let kept: Kept | undefined;

const kill = () => kept?.process.kill();

/**
 * Keeps a browser process that nobody needs for now. It ends a little later, and with this process at the latest.
 * @param key what it was started with
 */
export async function keepProcess(process: BrowserProcess, key: string): Promise<void> {
  await endKeptProcess();
  const timer = setTimeout(() => void endKeptProcess(), keptMs).unref();
  kept = { process, key, timer };
  process.setNeeded(false);
  // Before its files are removed.
  globalThis.process.prependListener('exit', kill);
}

/**
 * The process that was kept, if it was started with the same and runs.
 * @param mostTabs that it may have had
 */
export async function takeKeptProcess(key: string, mostTabs: number): Promise<BrowserProcess | undefined> {
  if (kept?.key !== key || kept.process.tabsGiven >= mostTabs) return undefined;
  const { process } = letGo(kept);
  if (await process.stillRuns()) return process;
  await process.close();
  return undefined;
}

/** Ends the process that is kept, if any. */
export async function endKeptProcess(): Promise<void> {
  if (kept) await letGo(kept).process.close();
}

function letGo(own: Kept): Kept {
  clearTimeout(own.timer);
  kept = undefined;
  globalThis.process.off('exit', kill);
  own.process.setNeeded(true);
  return own;
}
