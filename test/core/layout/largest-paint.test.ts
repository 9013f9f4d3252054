import { expect } from 'chai';
import { largestOfEqual } from '../../../src/core/layout/largest-paint.js';

const image = (node: string, x: number, y: number, width: number, natural = 1000) => ({
  node,
  box: { x, y, width, height: width / 2 },
  naturalWidth: natural,
  naturalHeight: natural / 2,
});
const viewport = { width: 800, height: 600 };

describe('the image of the largest paint', () => {
  it('is the first of the page among those of the same size', () => {
    const images = [image('a', 0, 0, 400), image('b', 400, 0, 400.2), image('c', 0, 200, 200)];
    for (const reported of ['a', 'b']) expect(largestOfEqual(reported, images, viewport)).to.equal('a');
  });

  it('is the one that was reported where the others are smaller, out of view, or of a smaller file', () => {
    for (const other of [
      image('a', 0, 0, 390),
      image('a', 0, 500, 400),
      image('a', 600, 0, 400),
      image('a', 0, 0, 400, 300),
      { ...image('a', 0, 0, 400), box: null },
    ])
      expect(largestOfEqual('b', [other, image('b', 0, 100, 400)], viewport)).to.equal('b');
  });

  it('is the one that was reported where another one is larger, or where it is no image', () => {
    expect(largestOfEqual('b', [image('a', 0, 0, 700), image('b', 0, 0, 400)], viewport)).to.equal('b');
    expect(largestOfEqual('text', [image('a', 0, 0, 700)], viewport)).to.equal('text');
  });
});
