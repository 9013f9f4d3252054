import { expect } from 'chai';
import { Browser, layoutsAt } from '../../dist/src/browser/index.js';
import { openFolder } from '../../dist/src/site/index.js';
import { page, removeSites, siteOf } from '../support/program.js';

describe('the boxes of all elements', function () {
  this.timeout(60_000);
  after(removeSites);

  it('are those at the beginning of what moves without end', async () => {
    const site = await openFolder(
      await siteOf({
        'index.html': page(
          '<div class="cloud"></div>',
          '.cloud{width:50px;height:20px;animation:drift 3s linear infinite}@keyframes drift{from{margin-left:10px}to{margin-left:200px}}',
        ),
      }),
    );
    const browser = await Browser.open({}, { allows: (url) => url.startsWith(site.origin) });
    try {
      const { boxes, problem } = await layoutsAt(browser, {
        url: `${site.origin}/`,
        limitMs: 30_000,
        allows: (url) => url.startsWith(site.origin),
        widths: [400, 800],
      });
      expect(problem).to.equal(undefined);
      for (const width of [400, 800]) expect(boxes.get(width)).to.deep.equal([['div.cloud', 10, 0, 50, 20]]);
    } finally {
      await browser.close();
      await site.close();
    }
  });
});
