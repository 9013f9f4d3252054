import type { Browser } from '../dist/src/browser/index.js';
import type { Screen } from '../dist/src/core/run/index.js';
import { PageWindow } from '../dist/src/browser/page-window.js';

/** Opens a page freshly on a screen, drawn whole, and waits for `load`: what a look at a page costs at least. */
export async function openBare(browser: Browser, screen: Screen, url: string): Promise<void> {
  await browser.inTab({ touch: screen.touch }, async ({ session }) => {
    await PageWindow.open(session, screen, true);
    const loaded = new Promise((resolve) => session.once('Page.loadEventFired', resolve));
    await session.send('Page.navigate', { url });
    await loaded;
  });
}
