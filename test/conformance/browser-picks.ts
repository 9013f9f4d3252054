import { launch, type Browser } from 'puppeteer-core';
import type { Screen } from '../../src/core/run/index.js';
import { findBrowser } from '../../src/browser/find.js';
import { PageWindow } from '../../src/browser/page-window.js';
import { browserSwitches } from '../../src/browser/switches.js';

/** Addresses under this origin never answer: only the choice counts, and nothing may already be loaded. */
export const nowhere = 'http://pictures.invalid/';

const page =
  '<!doctype html><meta name="viewport" content="width=device-width"><base href="' +
  nowhere +
  '"><style>body{margin:0}</style><div id="cases"></div>';

export async function startBrowser(switches: string[] = []): Promise<Browser> {
  const { executable, environment } = await findBrowser();
  return launch({
    executablePath: executable,
    ignoreDefaultArgs: true,
    pipe: true,
    waitForInitialPage: false,
    defaultViewport: null,
    args: [
      ...(process.getuid?.() === 0 ? ['--no-sandbox'] : []),
      ...browserSwitches,
      '--host-resolver-rules=MAP * ~NOTFOUND',
      ...switches,
    ],
    env: { ...process.env, ...environment } as Record<string, string>,
  });
}

const batch = 400;

/** What the browser picks for each piece of markup on a screen: `currentSrc` once every image has settled. */
export async function browserPicks(
  browser: Browser,
  screen: Screen,
  markup: readonly string[],
): Promise<string[]> {
  const context = await browser.createBrowserContext();
  try {
    const tab = await context.newPage();
    const session = await tab.createCDPSession();
    await PageWindow.open(session, screen, true);
    // Said of a screen that is not touched, it would take its mouse away too.
    if (screen.touch) await session.send('Emulation.setTouchEmulationEnabled', { enabled: true });
    await tab.setContent(page);
    const picks: string[] = [];
    for (let from = 0; from < markup.length; from += batch)
      picks.push(
        ...((await tab.evaluate(
          `(${readPicks})(${JSON.stringify(markup.slice(from, from + batch))})`,
        )) as string[]),
      );
    return picks;
  } finally {
    await context.close();
  }
}

/**
 * Runs inside the page; a text, because compilers add helpers to functions that the page does not have. The cases lie on top
 * of each other, so that lazy ones are in view.
 */
const readPicks = `async (list) => {
  const frame = () => new Promise((resolve) => requestAnimationFrame(resolve));
  const holder = document.getElementById('cases');
  holder.innerHTML = list.map((html) => '<div class="case" style="position:absolute;top:0;left:0">' + html + '</div>').join('');
  const images = [...holder.querySelectorAll('.case')].map((element) => element.querySelector('img'));
  for (let calm = 0, rounds = 0; calm < 3 && rounds < 600; rounds++) {
    await frame();
    calm = images.every(({ complete }) => complete) ? calm + 1 : 0;
  }
  return images.map(({ currentSrc }) => currentSrc);
}`;
