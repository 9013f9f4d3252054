import { expect } from 'chai';
import { LargestPaintRule } from '../../../src/core/templates/largest-paint-rule.js';

describe('the largest paint of a page that was not visited', () => {
  it('is its largest image, where that was so on others', () => {
    const rule = LargestPaintRule.learn([
      { areas: [9000, 40_000], largest: 1 },
      { areas: [50_000, 40_000], largest: 0 },
    ]);
    expect(rule.holds).to.equal(true);
    expect(rule.largestOf([100, 60_000])).to.deep.equal({ largest: 1 });
    expect(rule.largestOf([45_000, 45_000])).to.deep.equal({ largest: 0 });
    // Smaller than any image that was larger than the text.
    expect(rule.largestOf([20_000, 0]).perhaps).to.equal(0);
  });

  it('is text, where that is larger', () => {
    const rule = LargestPaintRule.learn([
      { areas: [9000], largest: -1 },
      { areas: [60_000], largest: 0 },
    ]);
    expect(rule.largestOf([8000])).to.deep.equal({ largest: -1 });
    expect(rule.largestOf([70_000])).to.deep.equal({ largest: 0 });
    // Nearer to the image that was larger than text.
    expect(rule.largestOf([40_000])).to.deep.equal({ largest: 0, perhaps: 0 });
    expect(rule.largestOf([20_000])).to.deep.equal({ largest: -1, perhaps: 0 });
    expect(rule.largestOf([])).to.deep.equal({ largest: -1 });
  });

  it('does not hold where a smaller image was it', () => {
    expect(LargestPaintRule.learn([{ areas: [9000, 50_000], largest: 0 }]).holds).to.equal(false);
  });
});
