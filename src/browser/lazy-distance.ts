import type { Page } from 'playwright-core';
import type { Browser } from './browser.js';
import { inContext } from './in-context.js';
import { PageWindow, type WindowShape } from './page-window.js';

/** Never asked of any host: the page and its images are answered here. */
const origin = 'http://lazy-distance.invalid';
const shape: WindowShape = { width: 1000, height: 800, density: 1, touch: false };
/** Images stand so far apart below the fold at first, then so far apart where the last of them was asked for, CSS px. */
const [coarse, fine] = [250, 50];
/** So far down they stand, CSS px. */
const deepest = 6000;
/** On a machine that has other things to do, requests come late: nothing more must come for so long, ms. */
const calmMs = 200;
const limitMs = 10_000;
const mostTries = 3;

const dot = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');
const countLoaded = 'Array.from(document.images).filter((image) => image.complete).length';

/** The farthest of the browser's own defaults, CSS px: taken where it cannot be measured, so that no image near the fold is blamed. */
export const usualLazyDistance = 3000;

/** One page with a lazy image at each of these distances below the fold, CSS px. */
function probePage(distances: readonly number[]): string {
  const images = distances.map(
    (distance) =>
      `<img src="/${distance}" loading="lazy" width="1" height="1" style="position:absolute;left:0;top:${shape.height + distance}px">`,
  );
  return `<!doctype html><title>probe</title><body style="margin:0;position:relative;height:${2 * deepest}px">${images.join('')}`;
}

/** The farthest distance at which an image is asked for, once all that were asked for have loaded and no more are. */
async function probe(page: Page, distances: readonly number[]): Promise<number> {
  const asked = new Set<number>();
  await page.unrouteAll();
  await page.route('**/*', (route) => {
    const path = new URL(route.request().url()).pathname;
    if (path === '/') return route.fulfill({ contentType: 'text/html', body: probePage(distances) });
    asked.add(Number(path.slice(1)));
    return route.fulfill({ contentType: 'image/gif', body: dot });
  });
  await page.goto(`${origin}/`, { waitUntil: 'load', timeout: limitMs });
  const until = performance.now() + limitMs;
  for (let calm = 0, before = 0; calm < 2; before = asked.size) {
    if (performance.now() > until) throw new Error(`no answer within ${limitMs / 1000} s`);
    await new Promise((done) => setTimeout(done, calmMs / 2));
    const isCalm =
      asked.size > 0 && asked.size === before && (await page.evaluate(countLoaded)) === asked.size;
    calm = isCalm ? calm + 1 : 0;
  }
  return Math.max(...asked);
}

const everyFrom = (first: number, last: number, step: number) =>
  Array.from({ length: Math.floor((last - first) / step) + 1 }, (_, index) => first + index * step);

/**
 * How far below the viewport this browser begins to load lazy images, CSS px: it depends on the browser, its version, and what it takes
 * the network for, so it is asked for in each run. It is asked twice, the second time closely around the first answer, until the two agree.
 * @throws {BrowserError} when the browser dies
 * @throws {Error} when the page cannot be looked at, or says something else each time
 */
export async function measureLazyDistance(browser: Browser): Promise<number> {
  const context = await browser.context();
  return inContext(context, async () => {
    const page = await context.newPage();
    await PageWindow.open(await context.newCDPSession(page), shape);
    const said: number[] = [];
    for (let tries = 0; tries < mostTries; tries++) {
      const about = await probe(page, everyFrom(coarse, deepest, coarse));
      // The image at the foot is there so that one is asked for in any case.
      const exactly = await probe(page, [fine, ...everyFrom(about, about + coarse, fine)]);
      if (exactly >= about && exactly < about + coarse) return exactly + fine;
      said.push(about, exactly);
    }
    throw new Error(`it differs from time to time: ${said.join(', ')} px`);
  });
}
