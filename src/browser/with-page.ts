import type { Browser } from './browser.js';
import type { GateWatch } from './outer-gate.js';
import { MeasuredPage, type TabOrder } from './measured-page.js';

export interface PageOrder extends TabOrder {
  /** Whether pages may run scripts; they may if left out. */
  scripts?: boolean;
  /** Told all that is asked for. */
  watch?: GateWatch | undefined;
}

/**
 * Does something with a tab of its own, which is closed afterwards; what it is refused is not told.
 * @throws {BrowserError} when the browser dies; else whatever the work throws
 */
export async function withPage<Result>(
  browser: Browser,
  order: PageOrder,
  work: (page: MeasuredPage) => Promise<Result>,
): Promise<Result> {
  const { screen, scripts, cookies, watch } = order;
  return browser.inTab({ touch: screen.touch, scripts, cookies, watch }, async (tab) => {
    const page = await MeasuredPage.open(tab, order, () => undefined);
    return work(page);
  });
}
