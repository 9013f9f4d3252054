import { expect } from 'chai';
import { compareRuns } from '../../../src/core/comparing/compare-runs.js';
import { isWorse } from '../../../src/core/comparing/judge-comparison.js';
import { matchPlacements } from '../../../src/core/comparing/match-placements.js';
import type { Download } from '../../../src/core/run/index.js';
import { someFile, somePlacement } from '../../support/facts.js';
import { someDownload, someFinding, someFix, somePage, someRun, someVisit } from '../../support/some-run.js';

const image = (id: string, selector: string, url: string, alt = '') =>
  somePlacement({ id, selector, candidates: [url], alt });

const visited = (bytes: number, downloads: Download[], shift = 0) =>
  somePage({
    path: '/',
    visits: [
      someVisit({
        firstView: { downloads: downloads.length, bytes },
        whole: { downloads: downloads.length, bytes },
        downloads,
        shift: { score: shift, observed: shift, releases: [] },
      }),
    ],
  });

describe('images of two runs', () => {
  it('are the same by their place, then by what they show, then by their text', () => {
    const before = someRun({
      placements: [
        image('/#1', 'p > img', '/a.jpg'),
        image('/#2', 'main > img', '/b.1.jpg'),
        image('/#3', 'i > img', '/c.jpg', 'A hut'),
      ],
      files: [
        someFile({ url: '/a.jpg' }),
        someFile({ url: '/b.1.jpg', hash: 'same' }),
        someFile({ url: '/c.jpg' }),
      ],
    });
    const after = someRun({
      placements: [
        image('/#1', 'section > img', '/b.2.jpg'),
        image('/#2', 'p > img', '/other.jpg'),
        image('/#3', 'em > img', '/d.jpg', 'A hut'),
        image('/#4', 'b > img', '/new.jpg'),
      ],
      files: [
        someFile({ url: '/b.2.jpg', hash: 'same' }),
        someFile({ url: '/other.jpg' }),
        someFile({ url: '/d.jpg' }),
        someFile({ url: '/new.jpg' }),
      ],
    });
    expect([...matchPlacements(before, after)].sort()).to.deep.equal([
      ['/#1', '/#2'],
      ['/#2', '/#1'],
      ['/#3', '/#3'],
    ]);
  });
});

describe('a comparison of two runs', () => {
  const placements = [
    image('/#1', 'a > img', '/a.jpg'),
    image('/#2', 'b > img', '/b.jpg'),
    image('/#3', 'c > img', '/c.jpg'),
  ];

  it('tells findings that appeared, got worse, got better and went, beyond noise', () => {
    const before = someRun({
      placements,
      findings: [
        someFinding('older-format', '/#1', 10_000),
        someFinding('older-format', '/#2', 50_000),
        someFinding('older-format', '/#3', 9000),
        someFinding('no-dimensions', '/#3'),
      ],
    });
    const after = someRun({
      placements,
      findings: [
        someFinding('older-format', '/#1', 90_000),
        someFinding('older-format', '/#2', 20_000),
        // Within noise.
        someFinding('older-format', '/#3', 12_999),
        someFinding('lazy-in-first-view', '/#2'),
      ],
    });
    const { findings } = compareRuns(before, after);
    const told = (list: { check: string; placement: string }[]) =>
      list.map(({ check, placement }) => `${check} ${placement}`);
    expect(told(findings.appeared)).to.deep.equal(['lazy-in-first-view /#2']);
    expect(told(findings.worse)).to.deep.equal(['older-format /#1']);
    expect(findings.worse[0]?.cost).to.deep.equal({ before: 10_000, after: 90_000 });
    expect(told(findings.better)).to.deep.equal(['older-format /#2']);
    expect(told(findings.went)).to.deep.equal(['no-dimensions /#3']);
    expect(isWorse(compareRuns(before, after))).to.equal(true);
    expect(isWorse(compareRuns(after, after))).to.equal(false);
  });

  it('takes a new name for the same content for no change of bytes', () => {
    const before = someRun({
      pages: [visited(60_000, [someDownload('/a.1.jpg', 50_000), someDownload('/gone.jpg', 10_000)])],
      files: [someFile({ url: '/a.1.jpg', hash: 'same' }), someFile({ url: '/gone.jpg' })],
    });
    const after = someRun({
      pages: [visited(90_000, [someDownload('/a.2.jpg', 50_000), someDownload('/new.jpg', 40_000)])],
      files: [someFile({ url: '/a.2.jpg', hash: 'same' }), someFile({ url: '/new.jpg' })],
    });
    const { downloads, pages } = compareRuns(before, after);
    expect(downloads).to.deep.equal([
      { page: '/', url: '/new.jpg', renamedFrom: null, bytes: { before: null, after: 40_000 } },
      { page: '/', url: '/gone.jpg', renamedFrom: null, bytes: { before: 10_000, after: null } },
      { page: '/', url: '/a.2.jpg', renamedFrom: '/a.1.jpg', bytes: { before: 50_000, after: 50_000 } },
    ]);
    expect(pages.visits.map(({ whole }) => whole)).to.deep.equal([{ before: 60_000, after: 90_000 }]);
  });

  it('counts a page that jumps more, and not one that weighs a little more', () => {
    const run = (bytes: number, shift: number) => someRun({ pages: [visited(bytes, [], shift)] });
    expect(isWorse(compareRuns(run(10_000, 0.1), run(13_999, 0.105)))).to.equal(false);
    expect(isWorse(compareRuns(run(10_000, 0.1), run(14_000, 0.1)))).to.equal(true);
    expect(isWorse(compareRuns(run(10_000, 0.1), run(10_000, 0.111)))).to.equal(true);
    expect(isWorse(compareRuns(run(50_000, 0.3), run(10_000, 0)))).to.equal(false);
  });

  it('knows a fix of another name by its places and checks', () => {
    const place = (placement: string) => ({
      placement,
      page: '/',
      source: null,
      selector: '',
      edit: 0,
      after: '',
      takes: {},
    });
    const saves = (expected: number) => ({ expected, firstView: 0, whole: 0, unsure: 0, screens: {} });
    const fix = (id: string, checks: string[], ids: string[], bytes: number) =>
      someFix({ id, checks, places: ids.map(place), saves: saves(bytes) });
    const before = someRun({
      placements,
      fixes: [
        fix('fix.a', ['older-format'], ['/#1', '/#2'], 9000),
        fix('fix.b', ['no-dimensions'], ['/#1', '/#2'], 0),
      ],
    });
    const after = someRun({
      placements,
      fixes: [fix('fix.c', ['older-format'], ['/#1', '/#2', '/#3'], 30_000)],
    });
    const { fixes } = compareRuns(before, after);
    expect(fixes.worse.map(({ id, saves: pair }) => [id, pair])).to.deep.equal([
      ['fix.c', { before: 9000, after: 30_000 }],
    ]);
    expect(fixes.went.map(({ id }) => id)).to.deep.equal(['fix.b']);
    expect(fixes.appeared).to.deep.equal([]);
  });
});
