import { expect } from 'chai';
import { resizedQuality } from '../../../src/core/plan/resized-quality.js';
import { someFile } from '../../support/facts.js';

const jpeg = (width: number, quality: number | null, height = (width * 2) / 3) =>
  someFile({ url: '/a', format: 'jpeg', width, height, quality });

describe('the quality of smaller versions', () => {
  it('is that of those which are offered already', () => {
    expect(resizedQuality(jpeg(1500, 95), [jpeg(1500, 95), jpeg(300, 82), jpeg(600, 84)], 73)).to.equal(82);
    expect(resizedQuality(jpeg(1500, 80), [jpeg(300, 90)], 73)).to.equal(80);
    expect(resizedQuality(jpeg(1500, 95), [], 73)).to.equal(95);
  });

  it('is no lower than that of equal looks, unless the file’s own is', () => {
    // What stands there until the picture has come may be smeared.
    expect(resizedQuality(jpeg(1500, 95), [jpeg(60, 20)], 73)).to.equal(73);
    expect(resizedQuality(jpeg(1500, 60), [jpeg(60, 20)], 73)).to.equal(60);
  });

  it('is not taken from other pictures, nor from files that do not tell', () => {
    const others = [
      jpeg(300, 75, 300),
      someFile({ url: '/b', format: 'webp', width: 300, height: 200, quality: 75 }),
      jpeg(300, null),
    ];
    expect(resizedQuality(jpeg(1500, 95), others, 73)).to.equal(95);
    expect(resizedQuality(jpeg(1500, null), [jpeg(300, 80)], 73)).to.equal(undefined);
  });
});
