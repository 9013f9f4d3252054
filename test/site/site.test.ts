import { expect } from 'chai';
import { matchElements } from '../../src/site/match-elements.js';
import { pagesOf, pathOfFile, resolvePath } from '../../src/site/paths.js';
import { findSourceElements } from '../../src/site/source-elements.js';
import { parsePage } from '../../src/site/walk-html.js';

const files = new Map(
  ['index.html', 'a/index.html', 'b.html', 'c d.html', '100%.html', 'x#1.html', 'p.jpg'].map((name) => [
    name,
    `/site/${name}`,
  ]),
);

describe('the path of a file', () => {
  it('is what a static host serves it at', () => {
    expect(pathOfFile('index.html', '/')).to.equal('/');
    expect(pathOfFile('a/index.html', '/docs/')).to.equal('/docs/a/');
    expect(pathOfFile('x#1.html', '/')).to.equal('/x%231.html');
  });
});

describe('the pages of a folder', () => {
  it('are its HTML files, but for those in folders that begin with a dot', () => {
    const names = ['b.html', '.parts/a.html', 'x/.y/a.html', '.well-known/a.html', 'x/a.htm', '.parts/p.jpg'];
    const pages = pagesOf(new Map(names.map((name) => [name, `/site/${name}`])), '/');
    expect(pages.map(({ file }) => file)).to.deep.equal(['.well-known/a.html', 'b.html', 'x/a.htm']);
  });
});

describe('a request', () => {
  const cases: [path: string, result: object][] = [
    ['/', { kind: 'file', file: 'index.html' }],
    ['/a/', { kind: 'file', file: 'a/index.html' }],
    ['/a', { kind: 'redirect', to: '/a/' }],
    ['/b', { kind: 'file', file: 'b.html' }],
    ['/c%20d', { kind: 'file', file: 'c d.html' }],
    ['/100%25.html', { kind: 'file', file: '100%.html' }],
    ['/x%231.html', { kind: 'file', file: 'x#1.html' }],
    ['/../etc/passwd', { kind: 'missing' }],
    ['/nothing', { kind: 'missing' }],
  ];
  for (const [path, result] of cases)
    it(`for ${path}`, () => expect(resolvePath(path, files, '/')).to.deep.equal(result));
  it('below a base path', () => {
    expect(resolvePath('/docs', files, '/docs/')).to.deep.equal({ kind: 'redirect', to: '/docs/' });
    expect(resolvePath('/docs/b', files, '/docs/')).to.deep.equal({ kind: 'file', file: 'b.html' });
    expect(resolvePath('/b', files, '/docs/')).to.deep.equal({ kind: 'missing' });
  });
});

describe('elements of a file', () => {
  it('are found with their places; an img of a picture with the whole picture', () => {
    const html = '<!doctype html>\n<p><img src=a>\n <picture><source srcset=b><img\n src=c></picture>';
    const found = findSourceElements(parsePage(html));
    expect(found.map(({ tag, line, column, markup }) => [tag, line, column, markup])).to.deep.equal([
      ['img', 2, 4, '<img src=a>'],
      ['img', 3, 28, '<picture><source srcset=b><img\n src=c></picture>'],
    ]);
  });

  it('are matched with live elements that scripts added, removed and changed', () => {
    const html = '<img src=1><img src=2><img data-src=3 alt=three><img src=4><img src=5>';
    const source = findSourceElements(parsePage(html));
    const live = ['new', '1', '3', '4', '5'].map((src) => ({
      tag: 'img',
      attributes:
        src === '3'
          ? [
              ['src', '3'],
              ['alt', 'three'],
            ]
          : [['src', src]],
    })) as Parameters<typeof matchElements>[0];
    expect(matchElements(live, source).map((element) => element?.column ?? null)).to.deep.equal([
      null,
      1,
      23,
      49,
      60,
    ]);
  });

  it('are matched wherever scripts have moved them', () => {
    const html = '<template><img src=1></template><img src=2><img src=2><img src=3>';
    const source = findSourceElements(parsePage(html));
    const live = ['2', '3', '1', '2', '4', '1'].map((src) => ({
      tag: 'img',
      attributes: [['src', src]] as const,
    }));
    const columns = (elements: typeof live) =>
      matchElements(elements, source).map((element) => element?.column ?? null);
    // Neither 4 nor the second 1 stands in the file.
    expect(columns(live)).to.deep.equal([44, 55, 11, 33, null, null]);
    expect(columns(live.slice(0, 4))).to.deep.equal([44, 55, 11, 33]);
  });
});
