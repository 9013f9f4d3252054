import { expect } from 'chai';
import { notJudged } from '../../../src/core/bytes/not-judged.js';
import { totalsOf } from '../../../src/core/bytes/totals.js';
import { defaultTrifles } from '../../../src/core/bytes/trifles.js';
import { weightsOn } from '../../../src/core/bytes/visit-weights.js';
import { canBeWorthwhile } from '../../../src/core/bytes/worthwhile.js';
import type { LedgerEntry, PageRecord, Screen, VisitRecord } from '../../../src/core/run/types.js';

const screens: Screen[] = [
  { name: 'phone', width: 400, height: 800, density: 2, touch: true, share: 0.75 },
  { name: 'desk', width: 1200, height: 800, density: 1, touch: false, share: 0.25 },
];

const visit = (screen: string, state: VisitRecord['state'], bytes: number): VisitRecord => ({
  screen,
  state,
  firstView: { downloads: 1, bytes },
  whole: { downloads: 2, bytes: 2 * bytes },
  byItself: { downloads: 1, bytes: bytes / 10 },
  allBytes: 3 * bytes,
  documentHeight: 800,
  documentWidth: 400,
  downloads: [],
  largestPaint: null,
  shift: { score: 0, observed: 0, releases: [] },
});

const page = (path: string, weight: number, visits: VisitRecord[]): PageRecord => ({
  path,
  file: 'index.html',
  base: path,
  weight,
  visits,
  withoutScript: null,
});

const entry = (
  url: string,
  where: Pick<LedgerEntry, 'page' | 'screen'>,
  numbers: Partial<LedgerEntry>,
): LedgerEntry =>
  ({ url, placements: ['p'], expected: 0, expectedRemains: 0, ...where, ...numbers }) as LedgerEntry;

/** Page a has three quarters of the visits; on the desk page b was not seen. */
const pages = [
  page('/a', 0.75, [visit('phone', 'complete', 1000), visit('desk', 'partial', 4000)]),
  page('/b', 0.25, [visit('phone', 'complete', 3000), visit('desk', 'unseen', 9000)]),
];

describe('shares of visits', () => {
  it('of pages that were not seen on a screen go to the others there', () => {
    expect([...weightsOn(pages, 'phone')]).to.deep.equal([
      ['/a', 0.75],
      ['/b', 0.25],
    ]);
    expect([...weightsOn(pages, 'desk')]).to.deep.equal([['/a', 1]]);
    expect([...weightsOn(pages, 'none')]).to.deep.equal([]);
  });

  it('are nothing where the seen pages have no visits', () => {
    expect([...weightsOn([page('/c', 0, [visit('phone', 'complete', 1)])], 'phone')]).to.deep.equal([
      ['/c', 0],
    ]);
  });

  it('count no visit that led elsewhere', () => {
    const moved = [...pages, page('/m', 1, [visit('phone', 'redirected', 7000)])];
    expect([...weightsOn(moved, 'phone').keys()]).to.deep.equal(['/a', '/b']);
  });
});

describe('totals', () => {
  const ledger = [
    entry('/x.jpg', { page: '/a', screen: 'phone' }, { expected: 800, expectedRemains: 200 }),
    entry('/x.jpg', { page: '/b', screen: 'phone' }, { expected: 400, expectedRemains: 100 }),
    entry('/y.jpg', { page: '/a', screen: 'phone' }, { placements: [], expected: 40, expectedRemains: 40 }),
    entry('/y.jpg', { page: '/a', screen: 'desk' }, { placements: [], expected: 80, expectedRemains: 80 }),
    entry('/z.jpg', { page: '/b', screen: 'phone' }, { placements: [], expected: 120, expectedRemains: 120 }),
    entry('/zero.jpg', { page: '/b', screen: 'phone' }, { placements: [] }),
  ];

  it('are means over pages on each screen, and over screens', () => {
    const { screens: rows, average } = totalsOf(pages, screens, ledger);
    // 0.75 × 1,000 + 0.25 × 3,000 = 1,500; 0.75 × 800 + 0.25 × 400 + 0.75 × 40 + 0.25 × 120 = 760.
    expect(rows[0]).to.deep.equal({
      screen: 'phone',
      firstView: 1500,
      whole: 3000,
      expected: 760,
      expectedAfter: 175,
      notJudged: 60,
      byItself: 150,
      allBytes: 4500,
    });
    expect(rows[1]).to.include({
      screen: 'desk',
      firstView: 4000,
      expected: 80,
      expectedAfter: 0,
      notJudged: 80,
    });
    // 0.75 × 1,500 + 0.25 × 4,000.
    expect(average).to.deep.equal({
      screen: 'average',
      firstView: 2125,
      whole: 4250,
      expected: 590,
      expectedAfter: 131,
      notJudged: 65,
      byItself: 213,
      allBytes: 6375,
    });
  });

  it('tell what nobody shows by address, with the pages, those with the most bytes first', () => {
    // /y.jpg: 0.75 × 0.75 × 40 + 0.25 × 1 × 80 = 42.5; /z.jpg: 0.25 × 0.75 × 120 = 22.5.
    expect(notJudged(pages, screens, ledger)).to.deep.equal([
      { url: '/y.jpg', pages: ['/a'], expected: 43 },
      { url: '/z.jpg', pages: ['/b'], expected: 23 },
    ]);
    const even = [
      entry('/q.jpg', { page: '/b', screen: 'phone' }, { placements: [], expected: 100 }),
      entry('/q.jpg', { page: '/a', screen: 'phone' }, { placements: [], expected: 100 }),
      entry('/p.jpg', { page: '/a', screen: 'phone' }, { placements: [], expected: 400 / 3 }),
    ];
    // Both 75 bytes: by their addresses.
    expect(notJudged(pages, screens, even)).to.deep.equal([
      { url: '/p.jpg', pages: ['/a'], expected: 75 },
      { url: '/q.jpg', pages: ['/a', '/b'], expected: 75 },
    ]);
  });
});

describe('a narrower version', () => {
  it('is worth a look where the steepest curve saves more than a trifle', () => {
    const limits = { ...defaultTrifles, trifleBytes: 1000, trifleShare: 0.1 };
    // Half as wide: 0.5^2.06 = 0.240 of the bytes, so at most 0.760 are saved.
    expect(canBeWorthwhile(1330, 800, 400, limits)).to.equal(true);
    expect(canBeWorthwhile(1300, 800, 400, limits)).to.equal(false);
    // 0.95^2.06 = 0.8997: just over a tenth; 0.96^2.06 = 0.9194: under.
    expect(canBeWorthwhile(1_000_000, 100, 95, limits)).to.equal(true);
    expect(canBeWorthwhile(1_000_000, 100, 96, limits)).to.equal(false);
    expect(canBeWorthwhile(1_000_000, 100, 100, { ...limits, trifleBytes: 0, trifleShare: 0 })).to.equal(
      false,
    );
    expect(canBeWorthwhile(1_000_000, 100, 120, { ...limits, trifleBytes: 0, trifleShare: 0 })).to.equal(
      false,
    );
  });
});
