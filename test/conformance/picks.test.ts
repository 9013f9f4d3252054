import { expect } from 'chai';
import type { Browser } from 'puppeteer-core';
import {
  environmentOf,
  parseImage,
  pickImage,
  readImageMarkup,
  type ChoiceStrategy,
} from '../../src/core/markup/index.js';
import type { Screen } from '../../src/core/run/index.js';
import { browserPicks, nowhere, startBrowser } from './browser-picks.js';
import { makeCases, type Case } from './generate.js';

/** A few hundred in `npm test`; `npm run conformance` asks for 10,000. */
const count = Number(process.env['YUKKURI_CASES'] ?? 300);
const seed = Number(process.env['YUKKURI_SEED'] ?? 2026);

const screen = (width: number, height: number, density: number, touch = false): Screen => ({
  name: `${width}×${height} @${density}${touch ? ' touch' : ''}`,
  width,
  height,
  density,
  touch,
  share: 1,
});

const screens = [
  screen(320, 568, 2, true),
  screen(390, 844, 3, true),
  screen(412, 915, 2.625, true),
  screen(820, 1180, 2, true),
  screen(1024, 600, 1.25),
  screen(1440, 900, 1.5),
  screen(1441, 901, 2),
  screen(1920, 1080, 1),
];

function ourPick({ html }: Case, on: Screen, strategy: ChoiceStrategy): string {
  const markup = readImageMarkup(html);
  if (!markup) return '';
  const autoWidth = /style="display:block;width:([\d.]+)px/.exec(html)?.[1];
  const pick = pickImage(parseImage(markup), environmentOf(on), {
    strategy,
    autoWidth: autoWidth === undefined ? undefined : Number(autoWidth),
  });
  return pick ? new URL(pick.url, nowhere).href : '';
}

async function compare(browser: Browser, on: Screen, cases: readonly Case[], strategy: ChoiceStrategy) {
  const theirs = await browserPicks(
    browser,
    on,
    cases.map(({ html }) => html),
  );
  return cases.flatMap((each, index) => {
    const ours = ourPick(each, on, strategy);
    return ours === theirs[index] ? [] : [{ html: each.html, ours, theirs: theirs[index] }];
  });
}

describe(`picks, compared with the browser in ${count} generated cases`, function () {
  this.timeout(1_200_000);
  const cases = makeCases(count, seed);
  let browser: Browser;

  before(async () => {
    browser = await startBrowser();
  });
  after(() => browser.close());

  for (const on of screens)
    it(`all agree on ${on.name}`, async () => {
      expect(await compare(browser, on, cases, 'at-least')).to.deep.equal([]);
    });
});

describe('picks of browsers that switch at the geometric mean', function () {
  this.timeout(1_200_000);
  const cases = makeCases(Math.ceil(count / 4), seed + 1);
  let browser: Browser;

  before(async () => {
    // The same browser without its present way of choosing.
    browser = await startBrowser(['--disable-features=SrcsetSelectionMatchesImageSet']);
  });
  after(() => browser.close());

  for (const on of screens.slice(1, 6))
    it(`all agree on ${on.name}`, async () => {
      expect(await compare(browser, on, cases, 'geometric-mean')).to.deep.equal([]);
    });
});
