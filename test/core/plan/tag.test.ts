import { expect } from 'chai';
import { editMarkup } from '../../../src/core/plan/tag.js';
import { templateOf } from '../../../src/core/plan/template.js';

describe('editing a tag', () => {
  it('keeps the order of attributes and puts new ones beside their kin', () => {
    expect(
      editMarkup('<img class=a src=x.jpg alt="">', [
        { kind: 'set', name: 'width', value: '4' },
        { kind: 'set', name: 'height', value: '3' },
      ]),
    ).to.equal('<img class="a" src="x.jpg" width="4" height="3" alt="">');
  });
  it('changes and removes attributes', () => {
    expect(editMarkup('<img loading="lazy" src="x.jpg">', [{ kind: 'remove', name: 'loading' }])).to.equal(
      '<img src="x.jpg">',
    );
    expect(editMarkup('<img src="x.jpg">', [{ kind: 'set', name: 'src', value: 'y.jpg' }])).to.equal(
      '<img src="y.jpg">',
    );
  });
  it('reaches the img and the sources of a picture, with white space in it only where there was some', () => {
    const picture = '<picture>\n<source srcset="a.avif" type="image/avif"> <img src="a.jpg"></picture>';
    expect(
      editMarkup(picture.replace(/\s+</g, '<'), [{ kind: 'set', name: 'loading', value: 'lazy' }]),
    ).to.equal(
      '<picture><source srcset="a.avif" type="image/avif"><img src="a.jpg" loading="lazy"></picture>',
    );
    expect(
      editMarkup(picture, [
        { kind: 'set-on-source', index: 0, name: 'width', value: '4' },
        { kind: 'set', name: 'loading', value: 'lazy' },
      ]),
    ).to.equal(
      '<picture>\n  <source srcset="a.avif" width="4" type="image/avif">\n  <img src="a.jpg" loading="lazy">\n</picture>',
    );
  });
  it('adds declarations behind those of the style attribute, each edit its own', () => {
    const add = (declaration: string) => ({ kind: 'add-style', declaration }) as const;
    expect(
      editMarkup('<img style="color: red;" src="x.jpg">', [add('height: auto'), add('background: #abc')]),
    ).to.equal('<img style="color: red; height: auto; background: #abc" src="x.jpg">');
    expect(editMarkup('<img src="x.jpg" style="height: auto">', [add('height: auto')])).to.equal(
      '<img src="x.jpg" style="height: auto">',
    );
  });
  it('leaves an image of a drawing what it is', () => {
    const to = [{ kind: 'set', name: 'href', value: 'b.jpg' }] as const;
    expect(editMarkup('<image href="a.jpg" width="60" preserveAspectRatio="none"/>', to)).to.equal(
      '<image href="b.jpg" width="60" preserveAspectRatio="none"></image>',
    );
    // In a page that is older than SVG 2; beside it the plain attribute counts.
    expect(editMarkup('<image xlink:href="a.jpg"/>', to)).to.equal('<image xlink:href="b.jpg"></image>');
    expect(editMarkup('<image xlink:href="old.jpg" href="a.jpg"/>', to)).to.equal(
      '<image xlink:href="old.jpg" href="b.jpg"></image>',
    );
  });

  it('escapes values', () => {
    expect(editMarkup('<img src="x.jpg">', [{ kind: 'set', name: 'alt', value: '"&<' }])).to.equal(
      '<img src="x.jpg" alt="&quot;&amp;<">',
    );
    expect(
      editMarkup('<img src="x.jpg" alt="a\u202eb">', [{ kind: 'set', name: 'src', value: 'y.jpg' }]),
    ).to.equal('<img src="y.jpg" alt="a&#x202e;b">');
  });
  it('breaks long lists after their commas, and writes a list that was broken as it is', () => {
    const srcset = 'a-long-name-of-a-picture-400.jpg 400w, a-long-name-of-a-picture-800.jpg 800w';
    const written = editMarkup('<img src="x.jpg">', [{ kind: 'set', name: 'srcset', value: srcset }]);
    expect(written).to.equal(
      '<img\n  src="x.jpg"\n  srcset="\n    a-long-name-of-a-picture-400.jpg 400w,\n    a-long-name-of-a-picture-800.jpg 800w">',
    );
    expect(editMarkup(written, [])).to.equal(written);
  });
});

describe('a template', () => {
  it('is the same for what one template renders, whatever numbers and hashes it writes', () => {
    const chain = (classes: string[]) => [
      { tag: 'body', classes: [] },
      { tag: 'div', classes },
    ];
    const own = { tag: 'img', classes: [] };
    const one = templateOf(chain(['post-12', 'card_x7f3a']), own, ['src', 'alt']);
    expect(one).to.equal(templateOf(chain(['post-345', 'card_b9c1d']), own, ['alt', 'src']));
    expect(one).not.to.equal(templateOf(chain(['post-12', 'card_x7f3a']), own, ['src']));
    expect(one).not.to.equal(templateOf(chain(['list-12']), own, ['src', 'alt']));
  });
});
