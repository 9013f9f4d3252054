import { readFile } from 'node:fs/promises';
import { expect } from 'chai';
import {
  chooseDensity,
  environmentOf,
  orderByDensity,
  pickFor,
  pickImage,
  parseImage,
  readImageMarkup,
} from '../../../src/core/index.js';

const screen = (width: number, density: number) => ({ width, height: 900, density, touch: false });
const at = (densities: number[]) =>
  orderByDensity(densities.map((density) => ({ url: `${density}`, density })));

describe('the choice among densities', () => {
  const cases: [densities: number[], wanted: number, atLeast: number, mean: number][] = [
    [[1, 2, 3], 2, 2, 2],
    [[1, 2, 3], 1.5, 2, 2],
    [[1, 2, 3], 1.3, 2, 1],
    [[1, 2, 3], 4, 3, 3],
    [[1, 4], 2, 4, 4],
    [[1, 4], 1.9, 4, 1],
    [[0.5, 2], 0.9, 2, 2],
    [[3], 1, 3, 3],
  ];
  for (const [densities, wanted, atLeast, mean] of cases)
    it(`of ${densities.join(', ')} at ${wanted}`, () => {
      const ordered = at(densities);
      expect(ordered[chooseDensity(ordered, wanted, 'at-least')]?.density).to.equal(atLeast);
      expect(ordered[chooseDensity(ordered, wanted, 'geometric-mean')]?.density).to.equal(mean);
    });

  it('keeps the first of equal densities, in source order', () => {
    const ordered = orderByDensity([
      { url: 'b', density: 2 },
      { url: 'a', density: 1 },
      { url: 'c', density: 2 },
    ]);
    expect(ordered.map(({ url }) => url)).to.deep.equal(['a', 'b']);
  });
});

describe('picking', () => {
  const pick = (html: string, width: number, density: number) =>
    pickFor(html, screen(width, density), 'https://huts.example/a/')?.url;
  const cases: [html: string, width: number, density: number, url: string | undefined][] = [
    ['<img src="a.jpg">', 800, 2, 'https://huts.example/a/a.jpg'],
    ['<img src="a.jpg" srcset="b.jpg 2x">', 800, 1, 'https://huts.example/a/a.jpg'],
    ['<img src="a.jpg" srcset="b.jpg 2x">', 800, 2, 'https://huts.example/a/b.jpg'],
    [
      '<img src="a.jpg" srcset="b.jpg 400w, c.jpg 800w" sizes="400px">',
      800,
      1,
      'https://huts.example/a/b.jpg',
    ],
    [
      '<img src="a.jpg" srcset="b.jpg 400w, c.jpg 800w" sizes="400px">',
      800,
      2,
      'https://huts.example/a/c.jpg',
    ],
    ['<img src="a.jpg" srcset="b.jpg 400w, c.jpg 800w">', 800, 1, 'https://huts.example/a/c.jpg'],
    ['<img srcset="b.jpg 400w, c.jpg 800w" sizes="0">', 800, 3, 'https://huts.example/a/b.jpg'],
    ['<img>', 800, 1, undefined],
    ['<p>no image</p>', 800, 1, undefined],
    [
      '<picture><source media="(max-width: 600px)" srcset="s.jpg"><img src="a.jpg"></picture>',
      600,
      1,
      'https://huts.example/a/s.jpg',
    ],
    [
      '<picture><source media="(max-width: 600px)" srcset="s.jpg"><img src="a.jpg"></picture>',
      601,
      1,
      'https://huts.example/a/a.jpg',
    ],
    [
      '<picture><source type="image/nothing" srcset="s.x"><source srcset="t.webp" type="image/webp"><img src="a.jpg"></picture>',
      601,
      1,
      'https://huts.example/a/t.webp',
    ],
    [
      '<picture><img src="a.jpg"><source srcset="late.jpg"></picture>',
      601,
      1,
      'https://huts.example/a/a.jpg',
    ],
    ['<picture><source srcset=","><img src="a.jpg"></picture>', 601, 1, 'https://huts.example/a/a.jpg'],
  ];
  for (const [html, width, density, url] of cases)
    it(`${html} at ${width} @${density}`, () => expect(pick(html, width, density)).to.equal(url));

  it('gives reasons', () => {
    const html = '<img srcset="b.jpg 400w, c.jpg 800w" sizes="(min-width: 700px) 300px, 100vw">';
    expect(pickFor(html, screen(800, 2), 'https://huts.example/')).to.deep.equal({
      url: 'https://huts.example/c.jpg',
      density: Math.fround(800 / 300),
      sourceSize: 300,
      reason: 'entry 1 of sizes applies: (min-width: 700px) 300px; it is the smallest of at least 2x',
    });
  });

  it('lays a lazy image of sizes=auto out by its slot', () => {
    const markup = readImageMarkup('<img loading="lazy" sizes="auto" srcset="a 300w, b 900w">');
    expect(
      markup && pickImage(parseImage(markup), environmentOf(screen(900, 1)), { autoWidth: 250 })?.url,
    ).to.equal('a');
  });

  it('works as the document’s example shows', async () => {
    const text = await readFile(new URL('../../../docs/picking.md', import.meta.url), 'utf8');
    const [, code = '', printed = ''] =
      /```js\n([\s\S]*?)```\s+prints\s+```text\n([\s\S]*?)```/.exec(text) ?? [];
    expect(code).to.contain("from 'yukkuri/core'");
    const lines: string[] = [];
    const body = code.replace(/import .*\n/, '').replaceAll('console.log', 'print');
    new Function('pickFor', 'print', body)(pickFor, (value: unknown) => lines.push(String(value)));
    expect(`${lines.join('\n')}\n`).to.equal(printed);
  });
});
