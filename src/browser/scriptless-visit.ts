import type { Screen } from '../core/run/index.js';
import type { Browser } from './browser.js';
import type { GateWatch } from './outer-gate.js';
import type { PageAccess } from './page-access.js';
import { withPage } from './with-page.js';

export interface ScriptlessOrder extends PageAccess {
  url: string;
  screen: Screen;
  limitMs: number;
  watch?: GateWatch;
}

/** A window this high shows most pages whole, so that lazy images are asked for without scrolling. CSS px. */
const wholePage = 16_000;

/**
 * Loads a page as it is for visitors without script, and gives the addresses of the images that it fetches.
 * @throws {Error} when the page does not settle; {BrowserError} when the browser dies
 */
export async function visitWithoutScript(browser: Browser, order: ScriptlessOrder): Promise<string[]> {
  const screen = { ...order.screen, height: wholePage };
  return withPage(browser, { ...order, screen, scripts: false }, async (page) => {
    await page.release();
    await page.load(order.url);
    await page.quiet('waiting for the page without script');
    return page.log
      .requests()
      .filter(({ resource, state, status }) => resource === 'Image' && state === 'finished' && status < 400)
      .map(({ url }) => url);
  });
}
