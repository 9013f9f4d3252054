import { expect } from 'chai';
import { breachesOf, newBreaches } from '../../../src/core/limits/limits.js';
import { someEntry, someFinding, someFix, somePage, someRun, someVisit } from '../../support/some-run.js';

const cut = (fix: string, bytes: number, expected = bytes) => ({
  kind: 'fewer-pixels',
  fix,
  bytes,
  expected,
});
const run = someRun({
  pages: [
    somePage({
      path: '/huts/',
      visits: [
        someVisit({
          firstView: { downloads: 1, bytes: 300_000 },
          whole: { downloads: 2, bytes: 500_000 },
          downloads: ['/a.jpg', '/b.jpg'].map((url, index) => ({
            url,
            bytes: index === 0 ? 300_000 : 200_000,
            type: '',
            status: 200,
            began: index === 0 ? ('first-view' as const) : ('scrolled' as const),
            scrollDepth: 0,
          })),
          shift: { score: 0.2, observed: 0.2, releases: [] },
        }),
      ],
    }),
    somePage({
      path: '/unseen/',
      visits: [someVisit({ state: 'unseen', whole: { downloads: 0, bytes: 9e9 } })],
    }),
  ],
  findings: [
    someFinding('no-dimensions', '/huts/#1', 0, { shift: 0.15 }),
    someFinding('no-dimensions', '/huts/#2'),
  ],
  fixes: [
    someFix({ id: 'fix.small' }),
    someFix({ id: 'fix.first' }),
    someFix({ id: 'fix.room', shift: 0.05, pages: ['/huts/'], findings: [0, 1] }),
  ],
  ledger: [
    someEntry({
      page: '/huts/',
      url: '/a.jpg',
      expected: 300_000,
      expectedRemains: 40_000,
      cuts: [cut('fix.small', 10_000), cut('fix.first', 250_000)],
    }),
    someEntry({
      page: '/huts/',
      url: '/b.jpg',
      expected: 100_000,
      expectedRemains: 50_000,
      cuts: [cut('fix.small', 100_000, 50_000)],
    }),
  ],
});
const everywhere = { holdsOn: () => true };

describe('limits', () => {
  it('are gone beyond by what is more, never by what is equal, nor by what was not seen', () => {
    expect(
      breachesOf(run, [{ ...everywhere, firstView: 300_000, whole: 500_000, shift: 0.2 }]),
    ).to.deep.equal([]);
    expect(breachesOf(run, [{ ...everywhere, whole: 499_999 }])).to.deep.equal([
      {
        page: '/huts/',
        screen: 'desk',
        what: 'whole',
        value: 500_000,
        most: 499_999,
        fixes: ['fix.small'],
        cured: true,
      },
    ]);
  });

  it('name the fixes from the top of the list that it takes, and say whether they are enough', () => {
    const [first] = breachesOf(run, [{ ...everywhere, firstView: 200_000 }]);
    // Of what the small fix takes off, only 10 kB are in the first view.
    expect(first)
      .to.include({ value: 300_000, cured: true })
      .and.to.deep.include({ fixes: ['fix.small', 'fix.first'] });
    const [saved] = breachesOf(run, [{ ...everywhere, saved: 1000 }]);
    expect(saved).to.include({ value: 310_000, cured: true });
    const [never] = breachesOf(run, [{ ...everywhere, expected: 1000 }]);
    expect(never).to.include({ value: 400_000, cured: false });
    const [shift] = breachesOf(run, [{ ...everywhere, shift: 0.1 }]);
    expect(shift).to.deep.include({ value: 0.2, fixes: ['fix.room'], cured: true });
    expect(breachesOf(run, [{ ...everywhere, shift: 0.01 }])[0]).to.include({ cured: false });
  });

  it('count findings of a check by page, and hold where they are said to: the strictest of several', () => {
    const here = { holdsOn: (page: string) => page === '/huts/' };
    const breaches = breachesOf(run, [
      { ...everywhere, checks: { 'no-dimensions': 5 } },
      { ...here, checks: { 'no-dimensions': 1, 'older-format': 0 } },
      { holdsOn: () => false, whole: 1 },
      { ...everywhere, screens: ['phone'], whole: 1 },
    ]);
    expect(breaches).to.deep.equal([
      {
        page: '/huts/',
        screen: null,
        what: 'no-dimensions',
        value: 2,
        most: 1,
        fixes: ['fix.room'],
        cured: true,
      },
    ]);
  });

  it('count against a baseline where they are new, or worse beyond noise', () => {
    const now = breachesOf(run, [{ ...everywhere, whole: 400_000, shift: 0.1 }]);
    const before = now.map((each) => ({ ...each, value: each.what === 'shift' ? 0.1 : 497_000 }));
    expect(newBreaches(now, [], 4000)).to.deep.equal(now);
    expect(newBreaches(now, before, 4000).map(({ what }) => what)).to.deep.equal(['shift']);
    expect(newBreaches(now, now, 4000)).to.deep.equal([]);
  });
});
