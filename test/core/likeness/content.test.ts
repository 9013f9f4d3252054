import { expect } from 'chai';
import { busiestRegion, flatSigns, jpegQuality, losslessContent } from '../../../src/core/likeness/index.js';

/** ISO/IEC 10918-1, table K.1, scaled as the widespread formula does for a quality. */
const standard = [
  16, 11, 10, 16, 24, 40, 51, 61, 12, 12, 14, 19, 26, 58, 60, 55, 14, 13, 16, 24, 40, 57, 69, 56, 14, 17, 22,
  29, 51, 87, 80, 62, 18, 22, 37, 56, 68, 109, 103, 77, 24, 35, 55, 64, 81, 104, 113, 92, 49, 64, 78, 87, 103,
  121, 120, 101, 72, 92, 95, 98, 112, 100, 103, 99,
];
const tableOf = (quality: number) => {
  const scale = quality < 50 ? 5000 / quality : 200 - 2 * quality;
  return standard.map((step) => Math.max(1, Math.min(255, Math.floor((step * scale + 50) / 100))));
};

describe('what pixels and tables tell of a picture', () => {
  it('reads a JPEG’s quality from its luminance table', () => {
    for (const quality of [30, 50, 73, 80, 90, 95])
      expect(jpegQuality(tableOf(quality))).to.be.closeTo(quality, 1);
    expect(jpegQuality(new Array<number>(64).fill(1))).to.be.at.least(98);
  });

  it('counts equal neighbours, small steps and colours', () => {
    const gray = (values: number[], width: number) => ({
      data: Uint8Array.from(values),
      width,
      height: values.length / width,
      channels: 1 as const,
    });
    // Of three steps in each row: two equal in the first, none in the second; of the four others, three are small.
    expect(flatSigns(gray([7, 7, 7, 9, 1, 2, 3, 90], 4))).to.deep.equal({
      flat: 2 / 6,
      gentle: 3 / 4,
      colours: 6,
    });
  });

  it('calls a losslessly stored picture a drawing where it is flat and its steps are steep, or its colours few', () => {
    const many = { colours: 65 };
    expect(losslessContent({ flat: 0.7, gentle: 0.1, ...many })).to.equal('graphic');
    expect(losslessContent({ flat: 0.95, gentle: 0.9, ...many })).to.equal('between');
    expect(losslessContent({ flat: 0.95, gentle: 0.9, colours: 20 })).to.equal('graphic');
    expect(losslessContent({ flat: 0.65, gentle: 0.1, ...many })).to.equal('between');
    expect(losslessContent({ flat: 0.6, gentle: 0.1, ...many })).to.equal('photo');
  });

  it('finds where most happens', () => {
    const [width, height] = [60, 40];
    const luma = new Uint8Array(width * height).fill(80);
    // A chessboard of 8 × 8 px with its corner at 40, 20.
    for (let y = 20; y < 28; y++)
      for (let x = 40; x < 48; x++) luma[y * width + x] = (x + y) % 2 === 0 ? 0 : 255;
    const found = busiestRegion({ luma, width, height }, { width: 10, height: 10 });
    expect(found.x).to.be.within(38, 40);
    expect(found.y).to.be.within(18, 20);
    expect(busiestRegion({ luma, width, height }, { width: 100, height: 100 })).to.deep.equal({
      x: 0,
      y: 0,
      width: 60,
      height: 40,
    });
  });
});
