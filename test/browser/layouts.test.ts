import { expect } from 'chai';
import { Browser, layoutsAt } from '../../dist/src/browser/index.js';
import { openFolder } from '../../dist/src/site/index.js';
import { page, photo, removeSites, siteOf } from '../support/program.js';

describe('the boxes of all elements', function () {
  this.timeout(60_000);
  after(removeSites);

  async function boxesOf(
    files: Record<string, string | Buffer>,
    widths: readonly number[],
  ): Promise<Awaited<ReturnType<typeof layoutsAt>>> {
    const site = await openFolder(await siteOf(files));
    const allows = (url: string) => url.startsWith(site.origin);
    const browser = await Browser.open({}, { allows });
    try {
      return await layoutsAt(browser, { url: `${site.origin}/`, limitMs: 30_000, allows, widths });
    } finally {
      await browser.close();
      await site.close();
    }
  }

  it('are those at the beginning of what moves without end', async () => {
    const moving = page(
      '<div class="cloud"></div>',
      '.cloud{width:50px;height:20px;animation:drift 3s linear infinite}@keyframes drift{from{margin-left:10px}to{margin-left:200px}}',
    );
    const { boxes, problem } = await boxesOf({ 'index.html': moving }, [400, 800]);
    expect(problem).to.equal(undefined);
    for (const width of [400, 800]) expect(boxes.get(width)).to.deep.equal([['div.cloud', 10, 0, 50, 20]]);
  });

  it('hold what scripts complete a moment after it came into view', async () => {
    const late = page(
      `<img class="top" data-src="a.jpg" alt="A hut"><div></div><img class="low" data-src="a.jpg" alt="A hut">
      <script>const seen = new IntersectionObserver((entries) => {
        for (const { isIntersecting, target } of entries)
          if (isIntersecting && !target.src) setTimeout(() => (target.src = target.dataset.src), 300);
      });
      for (const image of document.images) seen.observe(image);</script>`,
      'div{height:3000px}',
    );
    const { boxes } = await boxesOf({ 'index.html': late, 'a.jpg': await photo(200, 100) }, [400]);
    const images = boxes.get(400)?.filter(([selector]) => selector.startsWith('img'));
    expect(images).to.deep.equal([
      ['img.top', 0, 0, 200, 100],
      ['img.low', 0, 3100, 200, 100],
    ]);
  });

  it('hold lazy images that only another width shows, far down the page', async () => {
    const lazy = (name: string) => `<img class="${name}" src="a.jpg?${name}" loading="lazy" alt="A hut">`;
    const both = page(
      `<div></div>${lazy('narrow')}${lazy('wide')}`,
      'div{height:9000px}@media (min-width:500px){.narrow{display:none}}@media (max-width:499px){.wide{display:none}}',
    );
    const { boxes } = await boxesOf({ 'index.html': both, 'a.jpg': await photo(200, 100) }, [400, 800, 450]);
    for (const [width, shown] of [
      [400, 'narrow'],
      [800, 'wide'],
      [450, 'narrow'],
    ] as const) {
      const images = boxes.get(width)?.filter(([selector]) => selector.startsWith('img'));
      expect(images).to.deep.equal([[`img.${shown}`, 0, 9000, 200, 100]]);
    }
  });
});
