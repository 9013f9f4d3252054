import type { CDPSession } from 'puppeteer-core';
import type { Browser } from './browser.js';
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
async function probe(session: CDPSession, distances: readonly number[]): Promise<number> {
  const asked = new Set<number>();
  const answer = ({ requestId, request }: { requestId: string; request: { url: string } }) => {
    const path = new URL(request.url).pathname;
    const isPage = path === '/';
    if (!isPage) asked.add(Number(path.slice(1)));
    const type = isPage ? 'text/html' : 'image/gif';
    session
      .send('Fetch.fulfillRequest', {
        requestId,
        responseCode: 200,
        responseHeaders: [{ name: 'content-type', value: type }],
        body: (isPage ? Buffer.from(probePage(distances)) : dot).toString('base64'),
      })
      .catch(() => undefined);
  };
  session.on('Fetch.requestPaused', answer);
  try {
    await session.send('Page.navigate', { url: `${origin}/` });
    const until = performance.now() + limitMs;
    for (let calm = 0, before = 0; calm < 2; before = asked.size) {
      if (performance.now() > until) throw new Error(`no answer within ${limitMs / 1000} s`);
      await new Promise((done) => setTimeout(done, calmMs / 2));
      const isCalm = asked.size > 0 && asked.size === before && (await loaded(session)) === asked.size;
      calm = isCalm ? calm + 1 : 0;
    }
  } finally {
    session.off('Fetch.requestPaused', answer);
  }
  return Math.max(...asked);
}

async function loaded(session: CDPSession): Promise<unknown> {
  const { result } = await session.send('Runtime.evaluate', { expression: countLoaded, returnByValue: true });
  return result.value;
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
  return browser.inTab({}, async ({ session }) => {
    await PageWindow.open(session, shape);
    await session.send('Fetch.enable', { patterns: [{ urlPattern: '*' }] });
    const said: number[] = [];
    for (let tries = 0; tries < mostTries; tries++) {
      const about = await probe(session, everyFrom(coarse, deepest, coarse));
      // The image at the foot is there so that one is asked for in any case.
      const exactly = await probe(session, [fine, ...everyFrom(about, about + coarse, fine)]);
      if (exactly >= about && exactly < about + coarse) return exactly + fine;
      said.push(about, exactly);
    }
    throw new Error(`it differs from time to time: ${said.join(', ')} px`);
  });
}
