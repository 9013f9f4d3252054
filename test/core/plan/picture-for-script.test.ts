import { expect } from 'chai';
import {
  asCompleted,
  asWritten,
  listsForScript,
  readCompleted,
  withBothClaims,
} from '../../../src/core/plan/picture-for-script.js';

const picture =
  '<picture><source media="(max-width: 600px)" data-srcset="s.jpg"><SOURCE DATA-SRCSET=\'a.webp 400w\' data-sizes="50vw" type="image/webp">' +
  '<img src="tiny.jpg" data-src="a.jpg" alt="data-src"></picture>';

describe('a picture for a script', () => {
  it('names the attributes that the script reads', () => {
    expect(listsForScript(picture)).to.deep.equal({
      src: 'data-src',
      srcset: 'data-srcset',
      sizes: 'data-sizes',
    });
    expect(listsForScript('<picture><source srcset="a.webp"><img src="a.jpg"></picture>')).to.equal(
      undefined,
    );
  });

  const withSizes = (sizes: string, ofImage = '') =>
    `<picture><source data-srcset="a.webp 400w" ${sizes}><img data-src="a.jpg" ${ofImage}></picture>`;

  it('is left where a claim stands twice, or the script works out some of the widths', () => {
    expect(listsForScript(withSizes('data-sizes="50vw" sizes="100vw"'))).to.equal(undefined);
    expect(listsForScript(withSizes('data-sizes="50vw"', 'data-sizes="auto"'))).to.equal(undefined);
    expect(listsForScript(withSizes('sizes="100vw"'))).to.include({ sizes: 'sizes' });
  });

  it('says widths to the browser and to the script, which may pass them on or not', () => {
    const names = { src: 'data-src', srcset: 'data-srcset', sizes: 'data-sizes' };
    const text =
      '<picture>\n  <source data-srcset="a.webp 400w"\n    data-sizes="50vw"><img data-sizes="9vw" sizes="50vw" data-src="a.jpg"></picture>';
    const both = withBothClaims(text, names);
    expect(both).to.equal(
      '<picture>\n  <source data-srcset="a.webp 400w"\n    sizes="50vw"\n    data-sizes="50vw"><img sizes="9vw" data-sizes="9vw" data-src="a.jpg"></picture>',
    );
    expect(withBothClaims(both, names)).to.equal(both);
    expect(listsForScript(both)).to.include({ sizes: 'data-sizes' });
    expect(withBothClaims(text, { ...names, worksOut: true })).to.equal(text);
    expect(withBothClaims(text, { ...names, sizes: 'sizes' })).to.equal(text);
  });

  it('takes for the width of its box where the script works that out', () => {
    const names = { src: 'data-src', srcset: 'data-srcset', sizes: 'data-sizes', worksOut: true };
    for (const text of [withSizes('data-sizes="auto"'), withSizes('', 'data-sizes="auto"')]) {
      expect(listsForScript(text)).to.deep.equal(names);
      const read = readCompleted(asCompleted(text, names), names);
      expect(read?.sources[0]).to.include({ srcset: 'a.webp 400w', sizes: 'auto' });
      expect(read?.img).to.include({ src: 'a.jpg', loading: 'lazy' });
    }
  });

  it('is read as the script completes it, and written back as it stood', () => {
    const names = { src: 'data-src', srcset: 'data-srcset', sizes: 'data-sizes' };
    const completed = asCompleted(picture, names);
    expect(completed).to.equal(
      '<picture><source media="(max-width: 600px)" srcset="s.jpg"><SOURCE srcset=\'a.webp 400w\' sizes="50vw" type="image/webp">' +
        '<img data-until-then-src="tiny.jpg" src="a.jpg" alt="data-src"></picture>',
    );
    expect(asWritten(completed, names)).to.equal(picture.replace('DATA-SRCSET', 'data-srcset'));
  });
});
