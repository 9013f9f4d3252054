import { expect } from 'chai';
import fc from 'fast-check';
import { byteCurve } from '../../../src/core/bytes/byte-curve.js';
import { chooseLadder, type WidthDemand } from '../../../src/core/bytes/ladder.js';

/** Every subset that contains the largest need, tried one by one. */
function bestBySearch(
  demands: readonly WidthDemand[],
  bytesAt: (width: number) => number,
  count: number,
): number {
  const widths = [...new Set(demands.map(({ width }) => width))].sort((a, b) => a - b);
  const total = demands.reduce((sum, { weight }) => sum + weight, 0);
  let best = Number.POSITIVE_INFINITY;
  for (let mask = 0; mask < 2 ** widths.length; mask++) {
    const chosen = widths.filter((_, index) => mask & (1 << index));
    if (chosen.length !== count || chosen.at(-1) !== widths.at(-1)) continue;
    const cost = demands.reduce(
      (sum, { width, weight }) => sum + weight * bytesAt(chosen.find((each) => each >= width) ?? 0),
      0,
    );
    best = Math.min(best, cost / total);
  }
  return best;
}

describe('the ladder', () => {
  const square = (width: number) => width * width;

  it('offers the widths that make the expected bytes least', () => {
    const ladder = chooseLadder(
      [
        { width: 100, weight: 1 },
        { width: 110, weight: 1 },
        { width: 1000, weight: 1 },
      ],
      square,
    );
    expect(ladder.widths).to.deep.equal([110, 1000]);
    // (110² + 110² + 1000²) / 3
    expect(ladder.expectedBytes).to.be.closeTo(341_400, 1e-6);
    expect(ladder.stopped).to.equal('next-saves-too-little');
    expect(ladder.steps.map(({ widths }) => widths.length)).to.deep.equal([1, 2, 3]);
  });

  it('offers every width where each is worth it', () => {
    const ladder = chooseLadder(
      [
        { width: 100, weight: 1 },
        { width: 200, weight: 1 },
      ],
      square,
    );
    expect(ladder).to.include({ stopped: 'every-width-offered' });
    expect(ladder.widths).to.deep.equal([100, 200]);
  });

  it('leaves no gap of nearly a trifle for any screen, however few visit with it', () => {
    const bytes: Record<number, number> = { 504: 12_800, 619: 16_000, 1200: 60_000 };
    const rare = [
      { width: 504, weight: 1 },
      { width: 619, weight: 1 },
      { width: 1200, weight: 98 },
    ];
    const widthsFor = (least: number) =>
      chooseLadder(rare, (width) => (width === 504 ? least : (bytes[width] ?? 0))).widths;
    // 3.2 kB and a fifth; a trifle is 4 kB and 15 %.
    expect(widthsFor(12_800)).to.deep.equal([504, 619, 1200]);
    // 2.9 kB
    expect(widthsFor(13_100)).to.deep.equal([619, 1200]);
  });

  it('needs a demand', () => expect(() => chooseLadder([], square)).to.throw(RangeError));

  it('is as good as trying every choice', () => {
    const demand = fc.record({
      width: fc.integer({ min: 100, max: 3000 }),
      weight: fc.double({ min: 0.01, max: 1, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.array(demand, { minLength: 1, maxLength: 7 }), (demands) => {
        const bytesAt = (width: number) => width ** 1.6;
        for (const { widths, expectedBytes } of chooseLadder(demands, bytesAt, 0).steps) {
          const best = bestBySearch(demands, bytesAt, widths.length);
          expect(expectedBytes).to.be.closeTo(best, best * 1e-9);
        }
      }),
    );
  });
});

describe('a byte curve', () => {
  it('goes through its points and is straight in the logarithms between them', () => {
    const curve = byteCurve([
      { width: 400, bytes: 10_000 },
      { width: 1600, bytes: 90_000 },
    ]);
    expect(curve(400)).to.be.closeTo(10_000, 1e-6);
    expect(curve(1600)).to.be.closeTo(90_000, 1e-6);
    expect(curve(800)).to.be.closeTo(30_000, 1e-6);
  });
  it('needs a point', () => expect(() => byteCurve([])).to.throw(RangeError));
});
