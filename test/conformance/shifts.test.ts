import { expect } from 'chai';
import pLimit from 'p-limit';
import { Browser, visit } from '../../dist/src/browser/index.js';
import { layoutShift } from '../../src/core/shift/layout-shift.js';
import { openFolder } from '../../dist/src/site/index.js';
import { page, photo, removeSites, siteOf } from '../support/program.js';
import { randomFrom } from '../../demo/pictures/noise.js';

/** A page takes a fifth of a second; the picks of many more cases take no longer. */
const pages = Math.min(1000, Number(process.env['YUKKURI_CASES'] ?? 25));
const screens = [
  { name: 'phone', width: 390, height: 844, density: 2, touch: true, share: 0.5 },
  { name: 'desk', width: 1280, height: 800, density: 1, touch: false, share: 0.5 },
];

/** Names of the files of which each page shows some, by their size. */
const files = { 'a.jpg': [300, 200], 'b.jpg': [200, 320], 'c.jpg': [640, 120] } as const;

/** A page of text, boxes, floats, columns and frames, with images that keep no room between them. */
function shiftingPage(seed: number): string {
  const random = randomFrom(seed);
  const among = <Value>(values: readonly Value[]): Value =>
    values[Math.floor(random() * values.length)] as Value;
  const words = (count: number) =>
    Array.from({ length: count }, () => among(['hut', 'ridge', 'snow', 'stove', 'path'])).join(' ');
  const image = () => {
    const name = among(Object.keys(files));
    const style = among([
      '',
      'width:50%',
      'width:100%',
      'max-width:100%',
      'float:left',
      'display:inline',
      'height:90px',
    ]);
    const sized = among([false, false, true]) ? ' width="300" height="200"' : '';
    return `<img src="${name}"${sized} style="${style}" alt="">`;
  };
  const block = (depth: number): string => {
    const kind = among([
      'p',
      'p',
      'img',
      'img',
      'box',
      'flex',
      'grid',
      'clip',
      'list',
      'inline',
      'empty',
    ] as const);
    const inner = (count: number) =>
      Array.from({ length: count }, () => (depth > 1 ? `<p>${words(8)}</p>` : block(depth + 1))).join('');
    switch (kind) {
      case 'p':
        return `<p>${words(6 + Math.floor(random() * 60))}</p>`;
      case 'img':
        return image();
      case 'box':
        return `<div style="background:#eef;padding:8px;margin:${Math.floor(random() * 20)}px">${inner(2)}</div>`;
      case 'flex':
        return `<div style="display:flex;gap:10px;align-items:${among(['flex-start', 'center', 'stretch'])}">${image()}<div>${inner(1)}</div></div>`;
      case 'grid':
        return `<div style="display:grid;grid-template-columns:1fr 1fr;gap:8px"><div>${inner(1)}</div><div>${inner(1)}</div></div>`;
      case 'clip':
        return `<div style="overflow:hidden;height:120px;border:1px solid #999">${inner(2)}</div>`;
      case 'list':
        return `<ul>${Array.from({ length: 3 }, () => `<li>${words(4)}</li>`).join('')}</ul>`;
      case 'inline':
        return `<p>${words(5)} <b>${words(2)}</b> ${image()} <i>${words(9)}</i></p>`;
      case 'empty':
        return '<div style="height:30px"></div>';
    }
  };
  const body = Array.from({ length: 4 + Math.floor(random() * 5) }, () => block(0)).join('\n');
  return page(body, `img{display:block}body{font:16px/1.4 sans-serif;margin:${Math.floor(random() * 20)}px}`);
}

describe('layout shifts of generated pages', function () {
  this.timeout(1_200_000);
  after(removeSites);

  it(`are computed within 0.005 of what the browser reports, on ${pages} pages`, async () => {
    const names = Array.from({ length: pages }, (_, index) => `page-${index}.html`);
    const folder = await siteOf({
      ...Object.fromEntries(names.map((name, index) => [name, shiftingPage(index + 1)])),
      ...Object.fromEntries(
        await Promise.all(
          Object.entries(files).map(
            async ([name, [width, height]]) => [name, await photo(width, height)] as const,
          ),
        ),
      ),
    });
    const site = await openFolder(folder);
    const browser = await Browser.open({}, { allows: () => true });
    const limit = pLimit(4);
    const wrong: string[] = [];
    let shifted = 0;
    try {
      await Promise.all(
        names.map((name, index) =>
          limit(async () => {
            const screen = screens[index % 2] as (typeof screens)[number];
            const record = await visit(browser, {
              url: `${site.origin}/${name}`,
              screen,
              limitMs: 60_000,
              allows: () => true,
              sizeOf: () => Promise.resolve(undefined),
              pickOf: ({ attributes }, base) => {
                const src = attributes.find(([key]) => key === 'src')?.[1];
                return src === undefined ? undefined : new URL(src, base).href;
              },
            });
            expect(record.incomplete).to.deep.equal([]);
            for (const { url, moved, viewport, reported } of record.releases) {
              const { score } = layoutShift(moved, viewport);
              if (reported > 0.001) shifted++;
              if (Math.abs(score - reported) > 0.005)
                wrong.push(
                  `${name} on ${screen.name}, ${url}: ${score.toFixed(4)} computed, ${reported.toFixed(4)} reported`,
                );
            }
          }),
        ),
      );
    } finally {
      await Promise.all([browser.close(), site.close()]);
    }
    expect(wrong).to.deep.equal([]);
    // Pages on which nothing moves would prove nothing.
    expect(shifted).to.be.above(pages / 2);
  });
});
