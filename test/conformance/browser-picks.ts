import { chromium, type Browser } from 'playwright-core';
import type { Screen } from '../../src/core/run/index.js';
import { findBrowser } from '../../src/browser/find.js';

/** Addresses under this origin never answer: only the choice counts, and nothing may already be loaded. */
export const nowhere = 'http://pictures.invalid/';

const page =
  '<!doctype html><meta name="viewport" content="width=device-width"><base href="' +
  nowhere +
  '"><style>body{margin:0}</style><div id="cases"></div>';

export async function startBrowser(switches: string[] = []): Promise<Browser> {
  const { executable, environment } = await findBrowser();
  return chromium.launch({
    executablePath: executable,
    chromiumSandbox: process.getuid?.() !== 0,
    args: [
      '--host-resolver-rules=MAP * ~NOTFOUND',
      '--disable-gpu',
      '--disable-background-networking',
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
  const context = await browser.newContext({
    viewport: { width: screen.width, height: screen.height },
    deviceScaleFactor: screen.density,
    isMobile: screen.touch,
    hasTouch: screen.touch,
  });
  try {
    const tab = await context.newPage();
    await tab.setContent(page);
    const picks: string[] = [];
    for (let from = 0; from < markup.length; from += batch)
      picks.push(
        ...(await tab.evaluate<string[]>(
          `(${readPicks})(${JSON.stringify(markup.slice(from, from + batch))})`,
        )),
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
