import { expect } from 'chai';
import { asCompleted, asWritten, listsForScript } from '../../../src/core/plan/picture-for-script.js';

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

  it('is left where the script works the width out itself, or a claim stands twice', () => {
    const withSizes = (sizes: string) =>
      listsForScript(`<picture><source data-srcset="a.webp 400w" ${sizes}><img data-src="a.jpg"></picture>`);
    expect(withSizes('data-sizes="auto"')).to.equal(undefined);
    expect(withSizes('data-sizes="50vw" sizes="100vw"')).to.equal(undefined);
    expect(withSizes('sizes="100vw"')).to.include({ sizes: 'sizes' });
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
