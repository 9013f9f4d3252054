import { expect } from 'chai';
import fc from 'fast-check';
import {
  lumaOf,
  structuralSimilarity,
  toDecibels,
  worstPercentile,
} from '../../../src/core/likeness/index.js';

const flat = (level: number, side = 16) => ({
  width: side,
  height: side,
  luma: new Uint8Array(side * side).fill(level),
});

const noise = (side: number) =>
  fc
    .uint8Array({ minLength: side * side, maxLength: side * side })
    .map((luma) => ({ width: side, height: side, luma }));

describe('likeness', () => {
  it('is 1 for equal pictures', () => {
    expect(structuralSimilarity(flat(90), flat(90)).mean).to.equal(1);
  });

  it('of two even pictures follows from their brightness alone', () => {
    // (2·100·120 + c1) / (100² + 120² + c1) with c1 = (0.01·255)² = 6.5025; the second factor is 1, as nothing varies.
    const expected = (2 * 100 * 120 + 6.5025) / (100 ** 2 + 120 ** 2 + 6.5025);
    expect(structuralSimilarity(flat(100), flat(120)).mean).to.be.closeTo(expected, 1e-6);
  });

  it('of a chessboard and its negative is near −1', () => {
    const board = (turn: number) => ({
      width: 16,
      height: 16,
      luma: Uint8Array.from({ length: 256 }, (_, index) =>
        ((index % 16) + Math.floor(index / 16) + turn) % 2 === 0 ? 0 : 255,
      ),
    });
    expect(structuralSimilarity(board(0), board(1)).mean).to.be.closeTo(-1, 0.01);
  });

  it('is the same from either side, and never above 1', () => {
    fc.assert(
      fc.property(noise(12), noise(12), (a, b) => {
        const there = structuralSimilarity(a, b).mean;
        expect(there).to.be.closeTo(structuralSimilarity(b, a).mean, 1e-9);
        expect(there).to.be.at.most(1 + 1e-9);
      }),
      { numRuns: 50 },
    );
  });

  it('knows the worst spot of a picture that is equal elsewhere', () => {
    const spoiled = flat(100, 80);
    for (let y = 0; y < 16; y++) for (let x = 0; x < 16; x++) spoiled.luma[y * 80 + x] = 200;
    const likeness = structuralSimilarity(flat(100, 80), spoiled);
    // Of 19 × 19 windows 16 touch the spot.
    expect(likeness.mean).to.be.above(1 - 16 / 361);
    // Seven of them lie half in it: nothing varies in one picture, 50² in the other: c2 / (50² + c2), c2 = (0.03·255)², is 0.023.
    expect(worstPercentile(likeness)).to.be.closeTo(0.023, 0.01);
  });

  it('is told in decibels: 0.9 is 10, 0.99 is 20', () => {
    expect(toDecibels(0.9)).to.be.closeTo(10, 1e-9);
    expect(toDecibels(0.99)).to.be.closeTo(20, 1e-9);
    expect(toDecibels(1)).to.equal(60);
  });

  it('refuses pictures of two sizes, and those smaller than a window', () => {
    expect(() => structuralSimilarity(flat(1), flat(1, 20))).to.throw(RangeError, 'Sizes differ');
    expect(() => structuralSimilarity(flat(1, 7), flat(1, 7))).to.throw(RangeError, 'too small');
  });

  it('takes brightness by the weights of BT.601, with the ground behind what is transparent', () => {
    const red = { data: Uint8Array.of(255, 0, 0), width: 1, height: 1, channels: 3 as const };
    expect(lumaOf(red).luma[0]).to.be.closeTo(76.2, 0.5);
    const half = { data: Uint8Array.of(0, 0, 0, 128), width: 1, height: 1, channels: 4 as const };
    expect(lumaOf(half, 0).luma[0]).to.be.closeTo(0, 0.5);
    // 255 · (1 − 128/255) = 127.
    expect(lumaOf(half, 255).luma[0]).to.be.closeTo(127, 0.5);
  });
});
