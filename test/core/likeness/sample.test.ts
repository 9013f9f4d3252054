import { expect } from 'chai';
import { sampleOf, type Pixels } from '../../../src/core/likeness/index.js';

/** A picture in which each pixel says where it lies. */
function map(width: number, height: number, channels: 3 | 4 = 3): Pixels {
  const data = new Uint8Array(width * height * channels).fill(255);
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at += channels) {
      data[at] = x & 255;
      data[at + 1] = y & 255;
      data[at + 2] = (x >> 8) | ((y >> 8) << 4);
    }
  return { data, width, height, channels };
}

function placeAt({ data, width, channels }: Pixels, x: number, y: number): { x: number; y: number } {
  const at = (y * width + x) * channels;
  const [low = 0, top = 0, high = 0] = data.subarray(at, at + 3);
  return { x: low + ((high & 15) << 8), y: top + ((high >> 4) << 8) };
}

describe('a sample of a picture', () => {
  it('is not taken of what is less than three times as large', () => {
    // Three times 512 × 256 pixels.
    expect(sampleOf(map(768, 511))).to.equal(undefined);
    expect(sampleOf(map(768, 512))).to.include({ width: 512, height: 256 });
    expect(sampleOf(map(4000, 60))).to.equal(undefined);
  });

  for (const [width, height, channels] of [
    [1600, 1067, 3],
    [801, 3333, 4],
  ] as const)
    it(`is made of tiles from all over it: ${width} × ${height}`, () => {
      const sample = sampleOf(map(width, height, channels));
      if (!sample) throw new Error('no sample');
      expect(sample.data.length).to.equal(512 * 256 * channels);
      const thirds = new Set<string>();
      for (let row = 0; row < 4; row++)
        for (let column = 0; column < 8; column++) {
          const corner = placeAt(sample, column * 64, row * 64);
          expect([corner.x % 2, corner.y % 2]).to.deep.equal([0, 0]);
          expect(corner.x + 64).to.be.at.most(width);
          expect(corner.y + 64).to.be.at.most(height);
          expect(placeAt(sample, column * 64 + 63, row * 64 + 63)).to.deep.equal({
            x: corner.x + 63,
            y: corner.y + 63,
          });
          thirds.add(`${Math.floor((3 * corner.x) / width)} ${Math.floor((3 * corner.y) / height)}`);
        }
      expect(thirds.size).to.equal(9);
    });
});
