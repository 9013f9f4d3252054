import { expect } from 'chai';
import { parse } from 'parse5';
import { imageSequence, outlineOf } from '../../../src/core/templates/outline.js';

const outline = (body: string, head = '') =>
  outlineOf(parse(`<!doctype html><html><head>${head}</head><body>${body}</body></html>`));

describe('the outline of a page', () => {
  it('names images as a measured page names them', () => {
    const { images } = outline(
      '<main><p>One</p><p><img src="a.jpg"></p><figure id="hut"><picture><source srcset="b.webp"><img src="b.jpg"></picture></figure></main>',
    );
    expect(images.map(({ selector }) => selector)).to.deep.equal([
      'body > main > p:nth-of-type(2) > img',
      '#hut > picture > img',
    ]);
    expect(images.map(({ kind }) => kind)).to.deep.equal(['img', 'picture']);
    expect(images[1]?.sources).to.deep.equal([[['srcset', 'b.webp']]]);
    expect(images[1]?.chain.map(({ tag }) => tag)).to.deep.equal(['body', 'main', 'figure', 'picture']);
  });

  it('does not take an id for a name that two elements have', () => {
    const { images } = outline('<div id="x"><img src="a.jpg"></div><div id="x"></div>');
    expect(images[0]?.selector).to.equal('body > div:nth-of-type(1) > img');
  });

  it('has every element that shows an image or asks for one, links last', () => {
    const { images } = outline(
      '<img src="a.jpg"><input type="IMAGE" src="b.png"><input type="text"><video poster="c.jpg"></video><video></video>' +
        '<object data="d.svg"></object><embed src="e.svg"><svg><image href="f.jpg"></image></svg>' +
        '<template><img src="g.jpg"></template><noscript><img src="h.jpg"></noscript>',
      '<link rel="icon" href="i.png"><link rel="preload" as="image" href="j.jpg"><link rel="preload" as="font" href="k"><link rel="stylesheet" href="l.css">',
    );
    expect(images.map(({ kind }) => kind)).to.deep.equal([
      'img',
      'input',
      'video-poster',
      'object',
      'object',
      'svg-image',
      'icon-link',
      'preload',
    ]);
  });

  it('counts the text before each image by blocks', () => {
    const { blocks, images } = outline(
      '<h1>Two huts</h1><p>Some  <b>bold</b>\n words</p><script>var x</script><img src="a.jpg"><ul><li>Tea</li></ul><img src="b.jpg">',
    );
    expect(blocks).to.deep.equal([
      { heading: true, length: 8 },
      { heading: false, length: 15 },
      { heading: false, length: 3 },
    ]);
    expect(images.map(({ blocksBefore }) => blocksBefore)).to.deep.equal([2, 3]);
  });

  it('knows the base of addresses', () => {
    expect(outline('', '<base target="_top"><base href="/docs/"><base href="/no/">').base).to.equal('/docs/');
  });

  it('has what else decides how it is shown: viewport, where it leads, and its scripts without their data', () => {
    const { head, scripts } = outline(
      '<script>show("one.jpg", 3)</script><script type="application/json">{"a": 1}</script><script src="a.js"></script>',
      '<meta name="viewport" content="width=device-width"><meta name="description" content="x"><meta http-equiv="Refresh" content="0; url=/b">',
    );
    expect(head).to.deep.equal(['viewport width=device-width', 'refresh 0; url=/b']);
    expect(scripts).to.deep.equal([{ code: 'show(0, 0)' }, { src: 'a.js' }]);
    const other = outline("<script>show('two.jpg',  12.5)</script>").scripts;
    expect(other).to.deep.equal([{ code: 'show(0, 0)' }]);
  });

  it('reads 50,000 levels', () => {
    const deep = `${'<div>'.repeat(50_000)}<img src="a.jpg">`;
    expect(outline(deep).images).to.have.lengthOf(1);
  });
});

describe('the sequence of images', () => {
  const sequence = (body: string) => imageSequence(outline(body));
  const same = (one: string, other: string) => expect(sequence(one)).to.equal(sequence(other));
  const differ = (one: string, other: string) => expect(sequence(one)).not.to.equal(sequence(other));

  it('is the same whatever files are shown, and whatever text stands between', () =>
    same('<p>A</p><img src="a.jpg" alt="one">', '<p>B</p><p>C</p><img src="b.jpg" alt="">'));

  it('differs by count, place, attributes and by values that load or lay out otherwise', () => {
    differ('<img src="a.jpg">', '<img src="a.jpg"><img src="b.jpg">');
    differ('<img src="a.jpg">', '<figure><img src="a.jpg"></figure>');
    differ('<img src="a.jpg">', '<img src="a.jpg" loading="lazy">');
    differ('<img src="a.jpg" loading="eager">', '<img src="a.jpg" loading="lazy">');
    differ('<img src="a.jpg" style="width:50%">', '<img src="a.jpg" style="width:40%">');
  });
});
