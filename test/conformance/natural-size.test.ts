import { expect } from 'chai';
import type { Browser, HTTPRequest, Page } from 'puppeteer-core';
import sharp from 'sharp';
import {
  dimensionsFor,
  environmentOf,
  naturalSize,
  parseImage,
  pickImage,
  readImageMarkup,
} from '../../src/core/markup/index.js';
import { startBrowser } from './browser-picks.js';

const on = environmentOf({ width: 1000, height: 600, density: 1, touch: false });
const blank = '<!doctype html><style>body{margin:0}</style>';

function read(html: string) {
  const markup = readImageMarkup(html);
  if (!markup) throw new Error(html);
  const image = parseImage(markup);
  const pick = pickImage(image, on);
  if (!pick) throw new Error(`nothing is picked of ${html}`);
  return { image, pick };
}

describe('what follows from a pick, compared with the browser', function () {
  this.timeout(60_000);
  let browser: Browser;
  let tab: Page;

  before(async () => {
    browser = await startBrowser();
    tab = await browser.newPage();
    await tab.setViewport({ width: on.width, height: on.height });
    await tab.setRequestInterception(true);
    const answer = async (request: HTTPRequest) => {
      const [, width, height] = /(\d+)x(\d+)\.png/.exec(request.url()) ?? [];
      if (width === undefined) return request.respond({ body: blank, contentType: 'text/html' });
      // Names that begin with "held" never come.
      if (request.url().includes('held')) return;
      const create = {
        width: Number(width),
        height: Number(height),
        channels: 3 as const,
        background: '#888',
      };
      await request.respond({ contentType: 'image/png', body: await sharp({ create }).png().toBuffer() });
    };
    tab.on('request', (request) => void answer(request));
    await tab.goto('http://huts.invalid/');
  });
  after(() => browser.close());

  const files: [width: number, height: number, descriptor: string, sizes: string][] = [
    [300, 201, '300w', '100px'],
    [300, 200, '300w', '200px'],
    [300, 200, '300w', '133px'],
    [301, 207, '1.5x', ''],
    [301, 207, '2x', ''],
    [100, 77, '3x', ''],
    [1000, 667, '1000w', '350.4px'],
    [10, 9, '10w', '3px'],
    [640, 480, '640w', ''],
  ];
  for (const [width, height, descriptor, sizes] of files)
    it(`the natural size of ${width}×${height} as ${descriptor} with sizes "${sizes}"`, async () => {
      const html = `<img srcset="/${width}x${height}.png ${descriptor}" ${sizes && `sizes="${sizes}"`}>`;
      const seen = await tab.evaluate(
        `new Promise((resolve) => {
          document.body.innerHTML = ${JSON.stringify(html)};
          const [image] = document.images;
          image.onload = () => resolve({ width: image.naturalWidth, height: image.naturalHeight });
        })`,
      );
      const ours = naturalSize({ width, height }, read(html).pick.density);
      // Float32 may leave a whole number a hair short of itself.
      const cut = (value: number) => Math.floor(value + 1e-4);
      expect({ width: cut(ours.width), height: cut(ours.height) }).to.deep.equal(seen);
    });

  const waiting: string[] = [
    '<img src="/held-9x9.png" width="400" height="300">',
    '<picture><source srcset="/held-9x9.png" width="500" height="100"><img src="/a.png" width="400" height="300"></picture>',
    '<picture><source srcset="/held-9x9.png"><img src="/a.png" width="400" height="300"></picture>',
    '<picture><source srcset="/held-9x9.png" width="500"><img src="/a.png" width="400" height="300"></picture>',
    '<picture><source media="print" srcset="/b.png" width="500" height="100"><img src="/held-9x9.png" width="400" height="300"></picture>',
    '<img src="/held-9x9.png" width="400.5" height=" 300px">',
    '<img src="/held-9x9.png" width="40%" height="300">',
  ];
  for (const html of waiting)
    it(`the room kept for ${html}`, async () => {
      const height = await tab.evaluate(
        `(() => {
          document.body.innerHTML = '<style>img{display:block;width:200px;height:auto}</style>' + ${JSON.stringify(html)};
          return document.images[0].getBoundingClientRect().height;
        })()`,
      );
      const { image, pick } = read(html);
      const ratio = dimensionsFor(image, pick);
      expect(height).to.be.closeTo(ratio ? (200 * ratio.height) / ratio.width : 0, 0.02);
    });
});
