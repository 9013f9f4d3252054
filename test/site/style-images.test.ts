import { expect } from 'chai';
import { findPageStyleImages, findStyleImages, plainSelector } from '../../src/site/style-images.js';
import { parsePage } from '../../src/site/walk-html.js';

const found = (css: string) =>
  findStyleImages(css).map(({ property, url, line, column }) => [property, url, line, column]);

describe('images that a style sheet names', () => {
  it('are found with the place of their declaration', () => {
    expect(
      found(
        'a { color: red;\n  background: url(x.png) }\n@media (min-width: 1px) {\n  b { mask-image: url("y.svg") }\n}',
      ),
    ).to.deep.equal([
      ['background', 'x.png', 2, 3],
      ['mask-image', 'y.svg', 4, 7],
    ]);
  });
  it('are found each, in lists and image sets', () => {
    expect(
      found("a{background-image:url(1.png),image-set(url('2.png') 1x, url(3.png) 2x)}").map(([, url]) => url),
    ).to.deep.equal(['1.png', '2.png', '3.png']);
  });
  it('are not data, and not in comments', () => {
    expect(
      found('/* url(a.png) */ a{background:url(data:image/gif;base64,R0lGODlhAQABAAAAACw=)}'),
    ).to.deep.equal([]);
  });
  it('are found around what does not parse', () => {
    expect(found('a { color: ; } } b { background: url(y.png) }\n').map(([, url]) => url)).to.include(
      'y.png',
    );
    // An address that is not closed swallows all up to the next bracket. CSS Syntax Level 3, 4.3.14.
    expect(found('a { background: url(x.png } b { background: url(y.png) }\n')).to.deep.equal([]);
    expect(found('')).to.deep.equal([]);
  });

  it('are found in attributes for scripts that hold an address and nothing else, with their places', () => {
    const html =
      '<div class="a" data-bg="x.jpg"\n  data-name="x" data-two="a.png, b.png"></div><p data-set= y.WEBP?v=1 data-json=\'{"u":"z.png"}\'></p><img data-src="z.png">';
    expect(
      findPageStyleImages(parsePage(html)).map(({ property, url, rule, line, column, element }) => [
        property,
        url,
        rule,
        [line, column],
        element?.tag,
      ]),
    ).to.deep.equal([
      ['data-bg', 'x.jpg', 'data-bg="x.jpg"', [1, 16], 'div'],
      ['data-set', 'y.WEBP?v=1', 'data-set= y.WEBP?v=1', [2, 50], 'p'],
    ]);
  });

  it('are found with the conditions around them, and in custom properties that hold one', () => {
    const css =
      '.a{background:url(a.png)}@media (min-width:1px){@supports (display:grid){@media print{.a{background:url(b.png)}}}.c{--x:url(c.png);--two:url(d.png),url(e.png)}}.f{background:url(f.png)}';
    expect(findStyleImages(css).map(({ property, url, media }) => [property, url, media])).to.deep.equal([
      ['background', 'a.png', []],
      ['background', 'b.png', ['(min-width:1px)', 'print']],
      ['--x', 'c.png', ['(min-width:1px)']],
      ['background', 'f.png', []],
    ]);
  });
});

describe('images that a page’s own styles name', () => {
  it('are found in style elements and in style attributes, with their place in the page and their rule', () => {
    const html =
      '<!doctype html><title>x</title>\n<style>\n  .a { color: red;\n    background: url(a.png) }\n</style>\n<p style="color: red; background-image: url(b.png)">x</p>';
    expect(
      findPageStyleImages(parsePage(html)).map(({ url, line, column, selector, rule }) => [
        url,
        line,
        column,
        selector,
        rule,
      ]),
    ).to.deep.equal([
      ['a.png', 4, 5, '.a', '.a { color: red;\n    background: url(a.png) }'],
      ['b.png', 6, 4, null, 'color: red; background-image: url(b.png)'],
    ]);
  });
  it('are found in attributes whose text is another one than it means, which are told whole', () => {
    const attributes = [
      'style="background: url(&quot;b.png&quot;)"',
      `STYLE='background: url("b.png")'`,
      'style=background:url(b.png)',
    ];
    for (const attribute of attributes)
      expect(
        findPageStyleImages(parsePage(`<p ${attribute}>x</p>`)).map(({ url, line, column, rule }) => [
          url,
          line,
          column,
          rule,
        ]),
        attribute,
      ).to.deep.equal([['b.png', 1, 4, attribute]]);
  });

  it('stand in rules inside rules, whatever those begin with, and under conditions inside them', () => {
    const css =
      '.a { a:hover { background: url(one.jpg) } --set: { b: c }; > .k { background: url(two.jpg) } .in & { background: url(three.jpg) }\n' +
      ' @media (min-width: 900px) { background: url(four.jpg); } background: url(five.jpg) }';
    expect(
      findStyleImages(css).map(({ url, selector, rule, media }) => [url, selector, rule, media]),
    ).to.deep.equal([
      ['one.jpg', 'a:hover', 'a:hover { background: url(one.jpg) }', []],
      ['two.jpg', '>.k', '> .k { background: url(two.jpg) }', []],
      ['three.jpg', '.in &', '.in & { background: url(three.jpg) }', []],
      ['four.jpg', '.a', '@media (min-width: 900px) { background: url(four.jpg); }', ['(min-width:900px)']],
      ['five.jpg', '.a', css, []],
    ]);
  });

  it('have selectors that are the same text with the sign of nesting before a combinator and without', () => {
    // As Chromium 147 writes the selectors of nested rules.
    expect(['& .in', '& > .k', '&:hover', '& a, & + b'].map(plainSelector)).to.deep.equal([
      '.in',
      '>.k',
      '&:hover',
      'a,+b',
    ]);
  });
});
