import { expect } from 'chai';
import { drawnSize } from '../../../src/core/layout/drawn-size.js';
import { distanceBelowFold, shareInFirstView } from '../../../src/core/layout/fold.js';
import { neededWidth } from '../../../src/core/layout/needed-width.js';
import { defaultReach, reachAt, reachOfScroll } from '../../../src/core/layout/reach.js';

describe('the drawn size', () => {
  const slot = { width: 400, height: 300 };
  const file = { width: 4000, height: 2000 };
  const cases: [fit: string, width: number, height: number][] = [
    ['fill', 400, 300],
    ['cover', 600, 300],
    ['contain', 400, 200],
    ['none', 4000, 2000],
    ['scale-down', 400, 200],
  ];
  for (const [fit, width, height] of cases)
    it(`follows object-fit: ${fit}`, () =>
      expect(drawnSize(slot, file, fit)).to.deep.equal({ width, height }));

  it('is the slot where the file’s size is not known', () => {
    expect(drawnSize(slot, { width: 0, height: 0 }, 'cover')).to.deep.equal(slot);
  });
});

describe('the needed width', () => {
  it('is the drawn width × density, rounded up, at most the best source', () => {
    expect(neededWidth(350, 3, 4000)).to.equal(1050);
    expect(neededWidth(349.33, 1, 4000)).to.equal(350);
    expect(neededWidth(350.01, 2, 4000)).to.equal(700);
    expect(neededWidth(1000, 3, 1600)).to.equal(1600);
  });
});

describe('the fold', () => {
  const screen = { width: 400, height: 800 };
  it('is the lower edge of the screen', () => {
    expect(distanceBelowFold({ x: 0, y: 1000, width: 10, height: 10 }, screen)).to.equal(200);
  });
  it('cuts a slot into what is seen and what is not', () => {
    expect(shareInFirstView({ x: 0, y: 700, width: 400, height: 400 }, screen)).to.equal(0.25);
    expect(shareInFirstView({ x: 0, y: 900, width: 400, height: 400 }, screen)).to.equal(0);
    expect(shareInFirstView({ x: 0, y: 0, width: 400, height: 400 }, screen)).to.equal(1);
  });
  it('does not count slides beside the screen', () => {
    expect(shareInFirstView({ x: 400, y: 0, width: 400, height: 400 }, screen)).to.equal(0);
  });
});

describe('the reach curve', () => {
  it('runs straight between its points and flat beyond them', () => {
    expect(reachAt(0.5, defaultReach)).to.equal(1);
    expect(reachAt(3, defaultReach)).to.equal(0.625);
    expect(reachAt(100, defaultReach)).to.equal(0.1);
  });
  it('counts a scroll depth from the lower edge of the viewport', () => {
    expect(reachOfScroll(0, 800, defaultReach)).to.equal(1);
    expect(reachOfScroll(800, 800, defaultReach)).to.equal(0.75);
  });
});
