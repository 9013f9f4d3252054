import { expect } from 'chai';
import { isPulledWide } from '../../../src/core/layout/pulled-wide.js';

describe('a picture that is pulled wide', () => {
  const drawn = (width: number, height: number, fit = 'fill') =>
    isPulledWide({ fit, drawnWidth: width, drawnHeight: height, fileWidth: 1200, fileHeight: 800 });

  it('is drawn half again as wide as its shape, or wider', () => {
    expect(drawn(300, 200)).to.equal(false);
    // Of 3 : 2 a height of 200 px gives 300.
    expect(drawn(449, 200)).to.equal(false);
    expect(drawn(451, 200)).to.equal(true);
    expect(drawn(1200, 180)).to.equal(true);
  });

  it('is not one that is too high, or whose shape object-fit keeps', () => {
    expect(drawn(300, 800)).to.equal(false);
    expect(drawn(1200, 180, 'cover')).to.equal(false);
  });
});
