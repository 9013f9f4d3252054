import type { Browser } from './browser.js';

/** Never asked of any host: the page and its images are answered here. */
const origin = 'http://lazy-distance.invalid';
const window = { name: 'probe', width: 1000, height: 800, density: 1, touch: false, share: 0 };
/** Images stand so far apart below the fold, and so far down, CSS px. */
const step = 50;
const deepest = 6000;

const twoFrames = 'new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))';
const dot = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');

/** On a fast line, by the browser's own defaults, CSS px: taken where it cannot be measured. */
export const usualLazyDistance = 1250;

/** One page with a lazy image at each distance below the fold. */
function probePage(): string {
  const images = Array.from({ length: deepest / step }, (_, index) => {
    const distance = (index + 1) * step;
    return `<img src="/${distance}" loading="lazy" width="1" height="1" style="position:absolute;left:0;top:${window.height + distance}px">`;
  });
  return `<!doctype html><title>probe</title><body style="margin:0;position:relative;height:${2 * deepest}px">${images.join('')}`;
}

/**
 * How far below the viewport this browser begins to load lazy images, CSS px: it depends on the browser, its version, and what it takes
 * the network for, so it is asked for once in each run.
 * @throws {Error} when the page cannot be looked at
 */
export async function measureLazyDistance(browser: Browser): Promise<number> {
  const context = await browser.context(window);
  try {
    const page = await context.newPage();
    let farthest = 0;
    await page.route('**/*', (route) => {
      const path = new URL(route.request().url()).pathname;
      if (path === '/') return route.fulfill({ contentType: 'text/html', body: probePage() });
      farthest = Math.max(farthest, Number(path.slice(1)) || 0);
      return route.fulfill({ contentType: 'image/gif', body: dot });
    });
    await page.goto(`${origin}/`, { waitUntil: 'load' });
    for (let before = -1; before !== farthest;) {
      before = farthest;
      await page.evaluate(twoFrames);
    }
    return farthest + step;
  } finally {
    await context.close().catch(() => undefined);
  }
}
