import { expect } from 'chai';
import { parse } from 'parse5';
import { skeletonOf } from '../../../src/core/templates/skeleton.js';

const of = (html: string) => skeletonOf(parse(html), (address) => address);
const same = (one: string, other: string) => expect(of(one)).to.equal(of(other));
const differ = (one: string, other: string) => expect(of(one)).not.to.equal(of(other));

const figure = (name: string, more = '') => `<figure><img src="${name}.jpg" alt="${name}"${more}></figure>`;

describe('the skeleton of a page', () => {
  it('leaves out text, addresses, names and what generators make unique', () => {
    same(
      `<title>One</title><main id="a"><h1>One</h1>${figure('one')}<p>Text</p></main>`,
      `<title>Two</title><main id="b"><h1>Two</h1>${figure('two')}<p>Other <em>text</em></p></main>`,
    );
    same(
      `<article class="post post-17"><img src="a.jpg"></article>`,
      `<article class="post post-8"><img src="b.jpg"></article>`,
    );
    same(
      `<div style="background-image: url(a.jpg); width: 50%"><img></div>`,
      `<div style="background-image: url(b.jpg); width: 50%"><img></div>`,
    );
  });

  it('takes running text as text, however much of it there is', () => {
    same(
      `<article><p>a</p><h2>b</h2><p>c</p>${figure('one')}<ul><li>d<li>e</ul></article>`,
      `<article><pre>a</pre>${figure('one')}<p>b</p><table><tr><td>c</table><p>d</p></article>`,
    );
    differ(
      `<article>${figure('one')}<p>a</p></article>`,
      `<article>${figure('one')}<p class="lead">a</p></article>`,
    );
  });

  it('counts once what stands beside its like', () => {
    const card = '<li class="card"><a><img></a><p>Text</p></li>';
    same(`<ul>${card}${card}</ul>`, `<ul>${card.repeat(9)}</ul>`);
    differ(`<ul>${card}${card}</ul>`, `<ul>${card}${card.replace('"card"', '"card wide"')}</ul>`);
  });

  it('differs by what lays images out: elements, classes, attributes, styles, sheets', () => {
    const page = (inner: string, head = '') =>
      `<head>${head}</head><body><main class="wide">${inner}</main></body>`;
    const plain = page(figure('a'));
    for (const other of [
      page(`<div>${figure('a')}</div>`),
      page(figure('a', ' class="small"')),
      page(figure('a', ' width="10"')),
      page(figure('a', ' loading="lazy"')),
      page(figure('a', ' style="width: 10px"')),
      page(`<aside>x</aside>${figure('a')}`),
      page(figure('a'), '<link rel="stylesheet" href="a.css">'),
      page(figure('a'), '<style>img { width: 100% }</style>'),
      page(`${figure('a')}<script>document.body.append("x")</script>`),
    ])
      differ(plain, other);
    differ(
      page(figure('a'), '<link rel="stylesheet" href="a.css">'),
      page(figure('a'), '<link rel="stylesheet" href="b.css">'),
    );
    same(plain, page(`${figure('a')}<script type="application/ld+json">{"a": 1}</script>`));
  });

  it('writes addresses of sheets as they are on every page', () => {
    const sheet = (href: string) => `<link rel="stylesheet" href="${href}"><img>`;
    const at = (path: string) => (href: string) => new URL(href, `http://site.invalid${path}`).pathname;
    expect(skeletonOf(parse(sheet('../main.css')), at('/a/b/'))).to.equal(
      skeletonOf(parse(sheet('main.css')), at('/a/')),
    );
  });

  it('reads pages of any depth and any damage', () => {
    expect(of(`${'<div>'.repeat(20_000)}<img>`)).to.include('img');
    for (const text of ['', '<', '<img', '\0', '<table><img><tr>', '</p></div>'])
      expect(of(text)).to.be.a('string');
  });
});
