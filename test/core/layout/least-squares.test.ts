import { expect } from 'chai';
import { leastSquares } from '../../../src/core/layout/least-squares.js';

describe('least squares', () => {
  it('find the line through points on it', () => {
    const [start = 0, slope = 0] = leastSquares(
      [1, 2, 3, 10].map((x) => [1, x]),
      [5, 7, 9, 23],
    );
    expect(start).to.be.closeTo(3, 0.001);
    expect(slope).to.be.closeTo(2, 0.001);
  });

  it('find the nearest line to points beside it', () => {
    // Of (0,0), (1,1), (2,0): the mean, since both ends are as high.
    const [start = 0, slope = 0] = leastSquares(
      [0, 1, 2].map((x) => [1, x]),
      [0, 1, 0],
    );
    expect(start).to.be.closeTo(1 / 3, 0.001);
    expect(slope).to.be.closeTo(0, 0.001);
  });

  it('take columns that say the same, or nothing, for what they are', () => {
    const rows = [1, 2, 3, 4].map((x) => [1, x, 2 * x, 0]);
    const found = leastSquares(rows, [3, 5, 7, 9]);
    for (const [index, row] of rows.entries()) {
      const value = row.reduce((sum, each, column) => sum + each * (found[column] ?? 0), 0);
      expect(value).to.be.closeTo(3 + 2 * index, 0.01);
    }
  });
});
