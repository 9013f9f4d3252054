import { expect } from 'chai';
import { editMarkup } from '../../../src/core/fixes/tag.js';

const newer = { kind: 'add-source', type: 'image/avif', extension: 'avif' } as const;

describe('sources of another format', () => {
  it('are put around a single image, with its candidates and sizes', () => {
    expect(
      editMarkup('<img src="a.jpg" srcset="a-400.jpg 400w, a.jpg 800w" sizes="50vw" alt="">', [newer]),
    ).to.equal(
      [
        '<picture>',
        '  <source',
        '    type="image/avif"',
        '    srcset="a-400.avif 400w, a.avif 800w"',
        '    sizes="50vw">',
        '  <img',
        '    src="a.jpg"',
        '    srcset="a-400.jpg 400w, a.jpg 800w"',
        '    sizes="50vw"',
        '    alt="">',
        '</picture>',
      ].join('\n'),
    );
  });

  it('take the address of src where there is no list', () => {
    expect(editMarkup('<img src="a.jpg?v=2" alt="">', [newer])).to.contain(
      '<source type="image/avif" srcset="a.avif?v=2">',
    );
  });

  it('stand before each crop under its own condition, and before formats in between', () => {
    const written = editMarkup(
      '<picture><source media="(max-width: 600px)" srcset="tall.jpg"><source type="image/webp" srcset="wide.webp"><img src="wide.jpg" alt=""></picture>',
      [newer],
    );
    const order = [...written.matchAll(/(?:srcset|src)="([^"]+)"/g)].map(([, address]) => address);
    expect(order).to.deep.equal(['tall.avif', 'tall.jpg', 'wide.avif', 'wide.webp', 'wide.jpg']);
    expect(written).to.match(/type="image\/avif"\s+media="\(max-width: 600px\)"\s+srcset="tall\.avif"/);
  });

  it('come after all other changes, whatever the order of the edits', () => {
    const edits = [
      newer,
      { kind: 'set', name: 'srcset', value: 'b-400.jpg 400w' },
      { kind: 'set', name: 'sizes', value: '40vw' },
    ] as const;
    expect(editMarkup('<img src="b.jpg" alt="">', edits)).to.contain('srcset="b-400.avif 400w"');
    expect(editMarkup('<img src="b.jpg" alt="">', [...edits].reverse())).to.equal(
      editMarkup('<img src="b.jpg" alt="">', edits),
    );
  });

  it('are not made of data', () => {
    expect(editMarkup('<img src="data:image/png;base64,AAAA" alt="">', [newer])).not.to.contain('source');
  });
});

describe('addresses', () => {
  it('get another extension where they name a file of the format, and only there', () => {
    expect(
      editMarkup('<picture><source srcset="a.png 1x, b.webp 2x"><img src="c.png" alt="png"></picture>', [
        { kind: 'rename', from: 'png', to: 'jpg' },
      ]),
    ).to.equal('<picture>\n  <source srcset="a.jpg, b.webp 2x">\n  <img src="c.jpg" alt="png">\n</picture>');
    expect(editMarkup('<img src="a.JPEG#x" alt="">', [{ kind: 'rename', from: 'jpeg', to: 'png' }])).to.equal(
      '<img src="a.png#x" alt="">',
    );
  });

  it('are replaced one by one', () => {
    expect(
      editMarkup('<img src="copy.jpg" srcset="copy.jpg 400w, other.jpg 800w" alt="">', [
        { kind: 'readdress', from: 'copy.jpg', to: 'first.jpg' },
      ]),
    ).to.equal('<img src="first.jpg" srcset="first.jpg 400w, other.jpg 800w" alt="">');
  });
});

describe('a still picture', () => {
  it('stands before everything else, so that visitors who ask for less motion take it', () => {
    const written = editMarkup('<img src="a.gif" alt="">', [
      { kind: 'add-still', media: '(prefers-reduced-motion: reduce)', srcset: 'still.jpg' },
      { kind: 'add-source', type: 'image/webp', extension: 'webp' },
    ]);
    expect([...written.matchAll(/(?:srcset|src)="([^"]+)"/g)].map(([, address]) => address)).to.deep.equal([
      'still.jpg',
      'a.webp',
      'a.gif',
    ]);
  });
});
