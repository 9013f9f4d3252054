import { expect } from 'chai';
import fc from 'fast-check';
import { byteCurve } from '../../../src/core/bytes/byte-curve.js';

const widths = fc.uniqueArray(fc.integer({ min: 50, max: 4000 }), { minLength: 1, maxLength: 5 });

describe('the curve of bytes over widths', () => {
  it('runs through every encode', () => {
    fc.assert(
      fc.property(widths, fc.integer({ min: 1, max: 1000 }), (list, factor) => {
        const points = list.map((width) => ({ width, bytes: Math.round(factor * width ** 1.5) + 1 }));
        const curve = byteCurve(points);
        for (const { width, bytes } of points) expect(curve(width)).to.be.closeTo(bytes, bytes * 1e-9);
      }),
    );
  });

  it('is exact for pictures whose bytes grow with one power of the width', () => {
    fc.assert(
      fc.property(
        widths,
        fc.double({ min: 0.8, max: 2.1, noNaN: true }),
        fc.integer({ min: 40, max: 5000 }),
        (list, power, at) => {
          fc.pre(list.length >= 2);
          const curve = byteCurve(list.map((width) => ({ width, bytes: 3 * width ** power })));
          expect(curve(at)).to.be.closeTo(3 * at ** power, 3 * at ** power * 1e-6);
        },
      ),
    );
  });

  it('believes half of the bend that three points show', () => {
    // Over the logarithm of the width to base 2 the logarithm of the bytes is 0, 2, 3 at 0, 1, 2: a slope of 2, then of 1.
    const curve = byteCurve([
      { width: 1, bytes: 1 },
      { width: 2, bytes: 4 },
      { width: 4, bytes: 8 },
    ]);
    // Straight, 1 in the middle of the first stretch; the parabola has 1 + 1/8 there, since it bends by −1/2; half of that is 1/16.
    expect(Math.log2(curve(Math.SQRT2))).to.be.closeTo(1 + 1 / 16, 1e-9);
    expect(Math.log2(curve(2 * Math.SQRT2))).to.be.closeTo(2.5 + 1 / 16, 1e-9);
  });

  it('goes straight on beyond the ends', () => {
    const curve = byteCurve([
      { width: 100, bytes: 1000 },
      { width: 200, bytes: 4000 },
    ]);
    expect(curve(400)).to.be.closeTo(16_000, 1e-6);
    expect(curve(50)).to.be.closeTo(250, 1e-6);
  });

  it('takes bytes to grow with pixels to the power of 0.8 where one encode tells', () => {
    expect(byteCurve([{ width: 100, bytes: 1000 }])(200)).to.be.closeTo(1000 * 4 ** 0.8, 1e-6);
  });

  it('never falls as pictures get wider beyond what was measured, whatever two sizes were held against', () => {
    const curve = byteCurve([
      { width: 800, bytes: 34_000 },
      { width: 1000, bytes: 21_000 },
    ]);
    // Along the stretch it would be 1,000,000 at 150 px.
    expect(curve(150)).to.be.lessThan(curve(400));
    expect(curve(400)).to.be.lessThan(34_000);
    expect(curve(2000)).to.be.greaterThan(21_000);
  });
});
