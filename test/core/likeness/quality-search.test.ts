import { expect } from 'chai';
import fc from 'fast-check';
import {
  equalLooks,
  nextQuality,
  startAfter,
  type LossyFormat,
  type QualityTry,
} from '../../../src/core/likeness/index.js';

/** Searches as the measuring does, on an encoder whose likeness and bytes are known for every quality. */
function searchOn(
  format: LossyFormat,
  width: number,
  target: number,
  encoder: (quality: number) => { bytes: number; decibels: number },
) {
  const tries: QualityTry[] = [];
  for (;;) {
    const quality = nextQuality(format, width, tries, target);
    if (quality === undefined) break;
    tries.push({ quality, ...encoder(quality) });
  }
  return { tries, found: equalLooks(format, width, tries, target) };
}

describe('the search for the quality that looks the same', () => {
  // One dB for every eight steps of quality, bytes that grow by a fifth with each dB.
  const straight = (quality: number) => ({
    decibels: quality / 8,
    bytes: Math.round(10_000 * Math.exp(0.2 * (quality / 8))),
  });

  it('finds it where likeness grows evenly', () => {
    const { found, tries } = searchOn('avif', 800, 9, straight);
    expect(found.quality).to.equal(72);
    // 10,000 · e^(0.2 · 9) = 60,496.
    expect(found.bytes).to.be.closeTo(60_496, 60);
    expect(tries.length).to.be.at.most(4);
  });

  it('makes one encode where the first fits at once', () => {
    const { tries } = searchOn('webp', 320, 80 / 8, straight);
    expect(tries.map(({ quality }) => quality)).to.deep.equal([80]);
  });

  it('goes on with the whole where a part of a picture has led it, and ends beside the target', () => {
    // The part says 76; of the whole each quality gives a tenth of a dB more than of the part.
    const part = [72, 80].map((quality) => ({ quality, ...straight(quality) }));
    const start = startAfter('avif', 1600, part, 9.5);
    expect(start).to.include({ quality: 76, slope: 1 / 8 });
    expect(start.growth).to.be.closeTo(0.2, 0.001);
    const whole = (quality: number): QualityTry => ({
      quality,
      bytes: 50_000,
      decibels: straight(quality).decibels + 0.1,
    });
    expect(nextQuality('avif', 1600, [], 9.5, start)).to.equal(76);
    expect(nextQuality('avif', 1600, [whole(76)], 9.5, start)).to.equal(undefined);
    const found = equalLooks('avif', 1600, [whole(76)], 9.5, start);
    expect(found.quality).to.equal(76);
    // A tenth of a dB too much: 50,000 · e^(−0.2 · 0.1) = 49,010.
    expect(found.bytes).to.be.closeTo(49_010, 30);
    // Off by 0.3 dB the whole is encoded once more, two steps of quality lower: 0.3 · 8 = 2.4.
    expect(nextQuality('avif', 1600, [{ ...whole(76), decibels: 9.8 }], 9.5, start)).to.equal(74);
    // Off by 1 dB the part has misled it: so wide a picture usually gives a tenth of a dB for each step.
    expect(nextQuality('avif', 1600, [{ ...whole(76), decibels: 10.5 }], 9.5, start)).to.equal(66);
  });

  it('ends, stays within the scale, and comes near wherever the target lies', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<LossyFormat>('webp', 'avif'),
        fc.integer({ min: 64, max: 4000 }),
        fc.double({ min: 6, max: 16, noNaN: true }),
        fc.double({ min: 0.08, max: 0.3, noNaN: true }),
        (format, width, atEighty, slope) => {
          const encoder = (quality: number) => ({
            decibels: atEighty + (quality - 80) * slope,
            bytes: Math.round(40_000 * Math.exp(0.2 * (quality - 80) * slope)),
          });
          const target = atEighty - 2;
          const { tries, found } = searchOn(format, width, target, encoder);
          expect(tries.length).to.be.at.most(8);
          const least = format === 'webp' ? 40 : 25;
          for (const { quality } of tries) expect(quality).to.be.within(least, 98);
          // 40,000 · e^(−0.4) = 26,813.
          if (80 - 2 / slope >= least) expect(found.bytes).to.be.closeTo(26_813, 26_813 * 0.02);
        },
      ),
    );
  });

  it('gives up on an encoder that never gets there, without running away', () => {
    const { found, tries } = searchOn('webp', 800, 30, () => ({ bytes: 5000, decibels: 12 }));
    expect(tries.length).to.be.at.most(8);
    expect(found.quality).to.be.within(40, 98);
  });

  it('says no price outside of what was encoded, and nothing under the floor', () => {
    // Nothing changes over most of the picture: even the floor looks more alike than is asked for.
    const flat = (quality: number) => ({ decibels: 30 + quality / 50, bytes: 3000 + 40 * quality });
    for (const [format, floor] of [
      ['webp', 40],
      ['avif', 25],
    ] as const) {
      const { found, tries } = searchOn(format, 800, 12, flat);
      expect(Math.min(...tries.map(({ quality }) => quality))).to.equal(floor);
      expect(found.quality).to.equal(floor);
      // At most the 0.4 dB that count as the same are gone beyond the lightest encode.
      expect(found.bytes).to.be.within((3000 + 40 * floor) * 0.65, 3000 + 40 * floor);
    }
  });
});
