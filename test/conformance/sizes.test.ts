import { expect } from 'chai';
import { Browser, sweep } from '../../dist/src/browser/index.js';
import { drawDemoSite } from '../../dist/demo/draw.js';
import { openFolder, type Site } from '../../dist/src/site/index.js';
import { checkSizes, writeSizes } from '../../src/core/layout/write-sizes.js';

/** All widths of all pages in `npm run conformance`; in `npm test` some widths of the pages with the most kinds of layout. */
const whole = Number(process.env['YUKKURI_CASES'] ?? 0) >= 10_000;
const every = Array.from({ length: 2241 }, (_, index) => 320 + index);
const widths = whole ? every : every.filter((width) => width % 47 === 0);
const somePages = ['/huts/skarn.html', '/conditions.html', '/people.html'];

describe(`sizes, compared with the slots in the browser at ${widths.length} widths`, function () {
  this.timeout(1_200_000);
  let site: Site;
  let browser: Browser;

  before(async () => {
    site = await openFolder(await drawDemoSite(undefined, { begin: () => undefined, step: () => undefined }));
    browser = await Browser.open({}, { allows: (url: string) => `${url}/`.startsWith(site.origin) });
  });
  after(async () => {
    await browser.close();
    await site.close();
  });

  it('hold at 99 % of the widths and more, for every image of the demo whose slot follows the width', async () => {
    let checked = 0;
    const failed: string[] = [];
    for (const { path } of site.pages.filter((page) => whole || somePages.includes(page.path))) {
      const order = {
        url: site.origin + path,
        limitMs: 300_000,
        allows: (url: string) => url.startsWith(site.origin),
      };
      const chosen = await sweep(browser, order);
      const measured = await sweep(browser, { ...order, widths });
      for (const [selector, samples] of chosen.slots) {
        if (chosen.widthFromFile.has(selector) || chosen.dependsOnHeight.has(selector)) continue;
        const written = writeSizes(samples);
        const slots = measured.slots.get(selector) ?? [];
        const holds = 'text' in written ? checkSizes(written.text, slots).holds : 0;
        checked++;
        if (holds < 0.99) failed.push(`${path} ${selector}: ${JSON.stringify(written)} holds at ${holds}`);
      }
    }
    expect(failed).to.deep.equal([]);
    expect(checked).to.be.above(whole ? 40 : 30);
  });
});
