import { expect } from 'chai';
import { prove } from '../../../src/core/mending/proof.js';
import type { Download, Placement, TakenFiles } from '../../../src/core/run/index.js';
import { oneScreen, shownOn, somePlacement } from '../../support/facts.js';
import { someDownload, someFix, somePage, someRun, someVisit } from '../../support/some-run.js';

/** A page whose one image shows a.jpg of 100 kB, with what else it downloads. */
const runWith = (...others: Download[]) => {
  const shown = someDownload('/a.jpg', 100_000);
  return someRun({
    pages: [somePage({ path: '/', visits: [someVisit({ downloads: [shown, ...others] })] })],
    placements: [
      somePlacement({
        id: '/#1',
        downloads: { desk: { url: '/a.jpg', bytes: 100_000, began: 'first-view', scrollDepth: 0 } },
      }),
    ],
  });
};

/** A fix of the one image, with what the desk takes before and after. */
const fixOf = (desk: TakenFiles) =>
  someFix({
    id: 'fix.one',
    places: [
      {
        placement: '/#1',
        page: '/',
        source: { file: 'index.html', line: 1, column: 1 },
        selector: 'img',
        edit: 0,
        after: '<img>',
        takes: { desk },
      },
    ],
  });

const made = {
  fixes: [],
  layouts: { pages: 1, widths: 8, changes: [], problems: [] },
  unmade: new Map<string, string>(),
  lighterIsKept: false,
};

describe('the proof of a mended copy', () => {
  it('takes no request for a lost image that the browser took back itself', () => {
    const takenBack = someDownload('/b.jpg', 0, { status: 0, failure: 'cancelled' });
    expect(prove(runWith(), runWith(takenBack), made)).to.deep.include({ lost: [], kept: true });
    const missing = someDownload('/b.jpg', 0, { status: 404 });
    const { lost, kept } = prove(runWith(), runWith(missing), made);
    expect(lost).to.deep.equal([{ page: '/', screen: 'desk', url: '/b.jpg' }]);
    expect(kept).to.equal(false);
  });

  it('is not broken where a file that is there already is asked for again', () => {
    const twice = runWith(someDownload('/a.jpg', 0));
    const takes = {
      before: '/a.jpg',
      after: '/a.jpg',
      bytes: 100_000,
      reach: 1,
      inFirstView: true,
    };
    expect(prove(twice, twice, { ...made, fixes: [fixOf(takes)] }).fixes['fix.one']).to.deep.include({
      kept: true,
      reasons: [],
    });
  });

  it('is not broken where a lazy image waits for its slide, and is where it is not lazy', () => {
    const place = (lazy: boolean, state: 'drawn' | 'not-loaded') =>
      somePlacement({
        id: '/#1',
        candidates: ['/b.jpg'],
        ...shownOn(oneScreen, {
          url: '/b.jpg',
          bytes: 100_000,
          slot: [300, 200],
          file: [300, 200],
          more: { lazy, state },
        }),
      });
    const visited = (placement: Placement, ...downloads: Download[]) =>
      someRun({
        pages: [somePage({ path: '/', visits: [someVisit({ downloads })] })],
        placements: [placement],
      });
    const takes = { before: '/b.jpg', after: '/b.jpg', bytes: 100_000, reach: 0.4, inFirstView: false };
    const fix = fixOf(takes);
    const before = visited(place(false, 'drawn'), someDownload('/b.jpg', 100_000));
    const proved = (lazy: boolean) =>
      prove(before, visited(place(lazy, 'not-loaded')), { ...made, fixes: [fix] });
    expect(proved(true)).to.deep.include({
      kept: true,
      later: [{ page: '/', screen: 'desk', url: '/b.jpg', bytes: 40_000 }],
    });
    expect(proved(false).fixes['fix.one']?.reasons).to.deep.equal(['/b.jpg was not fetched at / on desk']);
  });

  it('is not broken where less is fetched of what no element shows, and is where it is more', () => {
    const [much, little] = [
      runWith(someDownload('/old.jpg', 50_000)),
      runWith(someDownload('/old.avif', 10_000)),
    ];
    const less = prove(much, little, made);
    expect(less.screens['desk']).to.deep.include({ promised: 0, achieved: 40_000, kept: true });
    const more = prove(little, much, made);
    expect(more.screens['desk']).to.deep.include({ promised: 0, achieved: -40_000, kept: false });
  });

  it('names what costs more than was promised', () => {
    const takes = { before: '/a.jpg', after: '/b.jpg', bytes: 40_000, reach: 0.2, inFirstView: false };
    const copy = (...downloads: Download[]) =>
      someRun({ pages: [somePage({ path: '/', visits: [someVisit({ downloads })] })] });
    const order = { ...made, fixes: [fixOf(takes)] };
    // 40 kB for each visit instead of 8 kB, and 5 kB of which nobody knew.
    const soon = prove(
      runWith(),
      copy(someDownload('/b.jpg', 40_000), someDownload('/new.jpg', 5000)),
      order,
    );
    expect(soon.screens['desk']).to.deep.equal({
      promised: 92_000,
      achieved: 55_000,
      kept: false,
      reasons: [
        '/b.jpg is fetched sooner than was promised at / on desk',
        '/new.jpg is fetched, which was not foreseen, at / on desk',
      ],
    });
  });
});
