import type { Browser } from '../dist/src/browser/index.js';
import type { Screen } from '../dist/src/core/run/index.js';

/** Opens a page freshly on a screen and waits for `load`: what a look at a page costs at least. */
export async function openBare(browser: Browser, screen: Screen, url: string): Promise<void> {
  const context = await browser.context(screen);
  const page = await context.newPage();
  await page.goto(url, { waitUntil: 'load' });
  await context.close();
}
