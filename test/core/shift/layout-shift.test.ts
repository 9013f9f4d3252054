import { expect } from 'chai';
import fc from 'fast-check';
import { largestSessionWindow, layoutShift } from '../../../src/core/shift/layout-shift.js';
import { intersect, unionArea, type Rectangle } from '../../../src/core/layout/rectangle.js';

const box = (x: number, y: number, width: number, height: number): Rectangle => ({ x, y, width, height });
const view = { width: 400, height: 800 };

const distances = (moved: readonly { name: string; by: number }[]) =>
  moved.map(({ name, by }) => ({ name, by }));

describe('layout shift', () => {
  it('is the share of the view that a moved thing covers before and after, times its distance', () => {
    // 400 × 100 px move down by 80 px: together they cover 400 × 180 px.
    const { score, impact, distance } = layoutShift(
      [{ name: 'a', before: box(0, 100, 400, 100), after: box(0, 180, 400, 100) }],
      view,
    );
    expect(impact).to.be.closeTo(180 / 800, 1e-9);
    expect(distance).to.be.closeTo(80 / 800, 1e-9);
    expect(score).to.be.closeTo((180 / 800) * 0.1, 1e-9);
  });

  it('counts the largest distance once, and each place once', () => {
    const { score, moved } = layoutShift(
      [
        { name: 'outer', before: box(0, 0, 400, 400), after: box(0, 40, 400, 400) },
        { name: 'inner', before: box(0, 0, 200, 200), after: box(0, 80, 200, 200) },
      ],
      view,
    );
    expect(score).to.be.closeTo((440 / 800) * (80 / 800), 1e-9);
    expect(moved.map(({ from, to }) => [from.y, to.y])[0]).to.deep.equal([0, 80]);
    expect(distances(moved)).to.deep.equal([
      { name: 'inner', by: 80 },
      { name: 'outer', by: 40 },
    ]);
  });

  it('passes over what moves less than 3 px, what is out of view, and what grows where it stands', () => {
    const { score } = layoutShift(
      [
        { name: 'little', before: box(0, 0, 400, 100), after: box(0, 2.9, 400, 100) },
        { name: 'below', before: box(0, 900, 400, 100), after: box(0, 1500, 400, 100) },
        { name: 'grown', before: box(0, 100, 400, 100), after: box(0, 100, 400, 600) },
      ],
      view,
    );
    expect(score).to.equal(0);
  });

  it('counts only what is left visible, and not what slides sideways out of sight', () => {
    const clipped = { name: 'a', before: box(0, 0, 400, 400), after: box(0, 100, 400, 400) };
    const { impact } = layoutShift(
      [{ ...clipped, seenBefore: box(0, 0, 400, 50), seenAfter: box(0, 100, 400, 50) }],
      view,
    );
    expect(impact).to.be.closeTo(100 / 800, 1e-9);
    const slide = { name: 'b', before: box(0, 0, 400, 400), after: box(400, 0, 400, 400) };
    expect(layoutShift([slide], view).score).to.equal(0);
  });

  it('counts from 3 px on, by whatever side, in the order of the distance and then of the names', () => {
    const { moved } = layoutShift(
      [
        { name: 'c', before: box(0, 0, 100, 100), after: box(0, 3, 100, 100) },
        { name: 'a', before: box(10, 0, 100, 100), after: box(13, 0, 100, 100) },
        { name: 'b', before: box(200, 0, 100, 100), after: box(193, 3, 100, 100) },
        { name: 'd', before: box(0, 200, 100, 100), after: box(3, 200, 100, 100) },
        { name: 'still', before: box(300, 300, 100, 100), after: box(300, 300, 100, 100) },
        { name: 'out of sight', before: box(0, 900, 100, 100), after: box(0, 950, 100, 100) },
      ],
      view,
    );
    expect(distances(moved)).to.deep.equal([
      { name: 'b', by: 7 },
      { name: 'a', by: 3 },
      { name: 'c', by: 3 },
      { name: 'd', by: 3 },
    ]);
  });

  it('counts what comes from above or below the view, if only by 3 px', () => {
    const risen = { name: 'a', before: box(0, 800, 400, 100), after: box(0, 797, 400, 100) };
    expect(distances(layoutShift([risen], view).moved)).to.deep.equal([{ name: 'a', by: 3 }]);
    const sideways = { name: 'b', before: box(400, 500, 400, 100), after: box(100, 502, 400, 100) };
    expect(layoutShift([sideways], view).moved).to.deep.equal([]);
  });

  it('never exceeds 1', () => {
    const rectangle = fc.record({
      x: fc.integer({ min: -500, max: 900 }),
      y: fc.integer({ min: -500, max: 1500 }),
      width: fc.integer({ min: 0, max: 900 }),
      height: fc.integer({ min: 0, max: 1500 }),
    });
    fc.assert(
      fc.property(fc.array(fc.tuple(rectangle, rectangle), { maxLength: 12 }), (pairs) => {
        const nodes = pairs.map(([before, after], index) => ({ name: `${index}`, before, after }));
        const { score } = layoutShift(nodes, view);
        expect(score).to.be.within(0, 1);
      }),
    );
  });
});

describe('the area of rectangles together', () => {
  it('counts each place once, as counting px by px does', () => {
    const rectangle = fc.record({
      x: fc.integer({ min: 0, max: 20 }),
      y: fc.integer({ min: 0, max: 20 }),
      width: fc.integer({ min: 0, max: 12 }),
      height: fc.integer({ min: 0, max: 12 }),
    });
    fc.assert(
      fc.property(fc.array(rectangle, { maxLength: 8 }), (rectangles) => {
        let covered = 0;
        for (let x = 0; x < 32; x++)
          for (let y = 0; y < 32; y++)
            if (rectangles.some((each) => intersect(each, box(x, y, 1, 1)) !== undefined)) covered++;
        expect(unionArea(rectangles)).to.equal(covered);
      }),
    );
  });
});

describe('the largest session window', () => {
  it('adds up shifts with less than a second between, for at most five seconds', () => {
    const at = (startTime: number, value: number) => ({ startTime, value });
    expect(largestSessionWindow([at(0, 0.1), at(900, 0.2), at(1800, 0.1)])).to.be.closeTo(0.4, 1e-9);
    expect(largestSessionWindow([at(0, 0.1), at(1000, 0.2)])).to.be.closeTo(0.2, 1e-9);
    // Every 900 ms: the window that begins at 0 ends before 5000, so that the seventh begins a new one.
    const steady = Array.from({ length: 8 }, (_, index) => at(index * 900, 0.1));
    expect(largestSessionWindow(steady)).to.be.closeTo(0.6, 1e-9);
    expect(largestSessionWindow([])).to.equal(0);
    // In whatever order they are reported; a window of exactly five seconds has ended.
    expect(largestSessionWindow([at(0, 0.1), at(3000, 0.3), at(500, 0.2)])).to.be.closeTo(0.3, 1e-9);
    expect(largestSessionWindow([at(3000, 0.1), at(500, 0.2), at(0, 0.1)])).to.be.closeTo(0.3, 1e-9);
    const late = [10_000, 10_900, 11_800, 12_700, 13_600, 14_300, 15_000].map((time) => at(time, 0.1));
    expect(largestSessionWindow(late)).to.be.closeTo(0.6, 1e-9);
  });
});
