import { expect } from 'chai';
import fc from 'fast-check';
import { wholeShapeFrom } from '../../../src/core/plan/whole-shape.js';

describe('the width of a file', () => {
  it('is one at which whole px have the shape of the picture, if there is one near', () => {
    const widths: [needed: number, picture: [number, number], expected: number][] = [
      // 3 : 2
      [350, [6000, 4000], 351],
      [351, [6000, 4000], 351],
      // 4 : 3
      [370, [4000, 3000], 372],
      // 16 : 9
      [1050, [3840, 2160], 1056],
      // Square ones have their shape at every width.
      [349, [800, 800], 349],
      // 350 × 233.44 to 353 × 235.45: none is whole, 351 × 234.11 is nearest to it.
      [350, [1024, 683], 351],
      // 205 × 68.29 would be a box of 205 px where 204.1 are meant; 207 × 68.96 is one of 204.
      [205, [1657, 552], 207],
      // A hundredth of 46 px is less than one: 46 × 15.32, 48 × 15.98.
      [46, [1000, 333], 48],
      [900, [900, 601], 900],
    ];
    for (const [needed, [width, height], expected] of widths)
      expect(wholeShapeFrom(needed, { width, height }), `${needed} of ${width} × ${height}`).to.equal(
        expected,
      );
  });

  it('is never less than what is needed, a hundredth or 4 px more at most, no wider than the picture, and no worse in shape', () => {
    const side = fc.integer({ min: 1, max: 8000 });
    fc.assert(
      fc.property(side, side, side, (needed, width, height) => {
        fc.pre(needed <= width);
        const found = wholeShapeFrom(needed, { width, height });
        const error = (at: number) =>
          Math.abs(Math.round((at * height) / width) / ((at * height) / width) - 1);
        const most = Math.min(width, Math.max(needed * 1.01, needed + 4));
        return found >= needed && found <= most && error(found) <= error(needed) + 1e-12;
      }),
    );
  });
});
