import { expect } from 'chai';
import { editMarkup, theImage, type TagEdit } from '../../../src/core/plan/tag.js';

const newer = (before: number, srcset: string): TagEdit => ({
  kind: 'add-source',
  before,
  type: 'image/avif',
  srcset,
  sizes: null,
});

const addresses = (text: string) =>
  [...text.matchAll(/(?:srcset|src)="([^"]+)"/g)].map(([, address]) => address);

describe('sources of another format', () => {
  it('are put around a single image', () => {
    expect(editMarkup('<img src="a.jpg" alt="">', [newer(theImage, 'a.avif')])).to.equal(
      '<picture>\n  <source type="image/avif" srcset="a.avif">\n  <img src="a.jpg" alt="">\n</picture>',
    );
  });

  it('are put around it as the page bears it: in one line, or without a box', () => {
    const edits = [newer(theImage, 'a.avif')];
    expect(editMarkup('<img src="a.jpg" alt="">', edits, 'close')).to.equal(
      '<picture><source type="image/avif" srcset="a.avif"><img src="a.jpg" alt=""></picture>',
    );
    expect(editMarkup('<img src="a.jpg" alt="">', edits, 'boxless')).to.equal(
      '<picture style="display: contents"><source hidden type="image/avif" srcset="a.avif"><img src="a.jpg" alt=""></picture>',
    );
  });

  it('stand before the source whose twin they are, under its condition and with its dimensions', () => {
    const written = editMarkup(
      '<picture><source media="(max-width: 600px)" srcset="tall.jpg" width="3" height="4"><source type="image/webp" srcset="wide.webp"><img src="wide.jpg" alt=""></picture>',
      [newer(0, 'tall.avif'), newer(1, 'wide.avif')],
    );
    expect(addresses(written)).to.deep.equal(['tall.avif', 'tall.jpg', 'wide.avif', 'wide.webp', 'wide.jpg']);
    expect(written).to.match(
      /type="image\/avif"\s+media="\(max-width: 600px\)"\s+srcset="tall\.avif"\s+width="3"\s+height="4"/,
    );
  });

  it('come after all other changes, whatever the order of the edits', () => {
    const edits: TagEdit[] = [
      newer(0, 'b.avif'),
      { kind: 'set-on-source', index: 0, name: 'width', value: '7' },
      { kind: 'set', name: 'loading', value: 'lazy' },
    ];
    const picture = '<picture><source srcset="b.jpg"><img src="c.jpg" alt=""></picture>';
    expect(editMarkup(picture, edits)).to.match(/<source type="image\/avif" srcset="b\.avif" width="7">/);
    expect(editMarkup(picture, [...edits].reverse())).to.equal(editMarkup(picture, edits));
  });

  it('can change places', () => {
    const picture =
      '<picture><source srcset="a.jpg"><source srcset="b.avif"><img src="c.jpg" alt=""></picture>';
    expect(addresses(editMarkup(picture, [{ kind: 'move-source', from: 1, to: 0 }]))).to.deep.equal([
      'b.avif',
      'a.jpg',
      'c.jpg',
    ]);
  });
});
