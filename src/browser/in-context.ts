import type { Browser as Driver, BrowserContext } from 'playwright-core';
import { BrowserError } from './errors.js';

export function died(cause?: unknown): BrowserError {
  return new BrowserError('BROWSER_DIED', 'the browser stopped in the middle of the visit', { cause });
}

/**
 * Does something in a context and closes it.
 * @throws {BrowserError} when the browser of the context dies (by now another may run in its place); else whatever the work throws
 */
export async function inContext<Result>(
  context: BrowserContext,
  work: () => Promise<Result>,
): Promise<Result> {
  const driver = context.browser();
  if (!driver) throw died();
  try {
    return await whileRunning(driver, work);
  } catch (cause) {
    throw (await stillRuns(driver)) ? cause : died(cause);
  } finally {
    await whileRunning(driver, () => context.close()).catch(() => undefined);
  }
}

/**
 * Does something with a browser. What is asked of one that dies meanwhile may never be answered: its end is listened for.
 * @throws {BrowserError} when it dies; else whatever the work throws
 */
export async function whileRunning<Result>(driver: Driver, work: () => Promise<Result>): Promise<Result> {
  let tell = () => {};
  const end = new Promise<never>((_, reject) => {
    tell = () => reject(died());
  });
  driver.once('disconnected', tell);
  if (!driver.isConnected()) tell();
  try {
    return await Promise.race([end, work()]);
  } finally {
    driver.off('disconnected', tell);
  }
}

/** A browser is asked whether it runs: what it was doing fails a moment before its end is known. */
function stillRuns(driver: Driver): Promise<boolean> {
  return whileRunning(driver, () => driver.newBrowserCDPSession()).then(
    () => true,
    () => false,
  );
}
