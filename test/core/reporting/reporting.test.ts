import { expect } from 'chai';
import { tasksByPicture } from '../../../src/core/reporting/by-picture.js';
import { filterRun } from '../../../src/core/reporting/filter-run.js';
import { fixLedgers } from '../../../src/core/reporting/fix-ledger.js';
import { indexRun, slotPlot } from '../../../src/core/reporting/slot-plot.js';
import { someFile, somePlacement } from '../../support/facts.js';
import { someEntry, someFix, somePage, someRun, someVisit } from '../../support/some-run.js';

const place = (placement: string, after: string, page = '/') => ({
  placement,
  page,
  source: null,
  selector: '',
  edit: 0,
  after,
  takes: {},
});

describe('the ledger of a fix', () => {
  it('goes from what is delivered to what is needed, by its own cuts and those of others', () => {
    const run = someRun({
      pages: [
        somePage({ path: '/', weight: 0.5 }),
        somePage({ path: '/b/', weight: 0.5, visits: [someVisit()] }),
      ],
      fixes: [someFix({ id: 'fix.a' }), someFix({ id: 'fix.b' })],
      ledger: [
        someEntry({
          url: '/a.jpg',
          expected: 1000,
          expectedRemains: 100,
          cuts: [
            { kind: 'later', fix: 'fix.a', bytes: 0, expected: 200 },
            { kind: 'fewer-pixels', fix: 'fix.a', bytes: 400, expected: 400 },
            { kind: 'newer-format', fix: 'fix.b', bytes: 300, expected: 300 },
          ],
        }),
        someEntry({ page: '/b/', url: '/c.jpg', expected: 5000, expectedRemains: 5000 }),
      ],
    });
    expect(fixLedgers(run).get('fix.a')).to.deep.equal({
      delivered: 500,
      cuts: [
        { kind: 'fewer-pixels', bytes: 200 },
        { kind: 'later', bytes: 100 },
      ],
      byOthers: 150,
      remains: 50,
    });
  });
});

describe('the curves of an image over the width of the viewport', () => {
  it('say what it needs, what sizes claims, and which file is taken, before and after', () => {
    const markup = '<img srcset="/s.jpg 400w, /l.jpg 1600w" sizes="100vw" src="/s.jpg" alt="">';
    const after = markup.replace('100vw', '(max-width: 1000px) 50vw, 500px');
    const run = someRun({
      placements: [somePlacement({ id: '/#1', markup })],
      files: [someFile({ url: '/s.jpg', width: 400 }), someFile({ url: '/l.jpg', width: 1600 })],
      sweeps: [
        {
          placement: '/#1',
          pieces: [
            { from: 320, slotFrom: 160, to: 1000, slotTo: 500 },
            { from: 1001, slotFrom: 500, to: 2560, slotTo: 500 },
          ],
          write: null,
          reason: null,
          holds: 1,
          worst: 0,
          constant: null,
        },
      ],
    });
    const fix = someFix({
      id: 'fix.a',
      places: [place('/#1', after)],
      edits: [{ kind: 'tag', example: '/#1', before: markup, after }],
    });
    const [once] = slotPlot(fix, indexRun(run))?.curves ?? [];
    expect(once?.density).to.equal(1);
    expect(once?.needed).to.deep.equal([
      { at: 320, value: 160 },
      { at: 1000, value: 500 },
      { at: 2560, value: 500 },
    ]);
    expect(once?.claimed).to.deep.equal([
      { at: 320, value: 320 },
      { at: 2560, value: 2560 },
    ]);
    expect(once?.proposed).to.deep.equal(once?.needed);
    // 100vw asks for more than 400 px from 401 on; half of it from 801 on.
    const firstLarge = (points: readonly { at: number; value: number }[] = []) =>
      points.find(({ value }) => value === 1600)?.at;
    expect(firstLarge(once?.takes)).to.equal(408);
    expect(firstLarge(once?.taken)).to.equal(808);
  });
});

describe('fixes by picture', () => {
  it('gather the last text and all files of one picture', () => {
    const file = (name: string) => ({
      name,
      from: '/master.jpg',
      recipe: 'resized' as const,
      width: 400,
      format: 'jpeg',
      bytes: 1,
      quality: 73,
      error: 0,
    });
    const takes = (after: string) => ({
      desk: { before: '/master.jpg', after, bytes: 1, reach: 1, inFirstView: true },
    });
    const run = someRun({
      placements: [somePlacement({ id: '/#1' }), somePlacement({ id: '/#2', candidates: ['/other.jpg'] })],
      fixes: [
        someFix({
          id: 'fix.a',
          checks: ['x'],
          places: [{ ...place('/#1', 'first'), takes: takes('/m-1.jpg') }],
          files: [file('/m-1.jpg')],
        }),
        someFix({
          id: 'fix.b',
          checks: ['y'],
          places: [place('/#1', 'last'), place('/#2', 'else')],
          files: [file('/m-2.jpg'), file('/m-1.jpg')],
        }),
      ],
      ledger: [someEntry({ url: '/master.jpg', placements: ['/#1'], expected: 900, expectedRemains: 100 })],
    });
    const [task, other] = tasksByPicture(run);
    expect(task).to.include({ picture: '/master.jpg', saves: 800 });
    expect(task?.fixes).to.deep.equal([
      { id: 'fix.a', rank: 1 },
      { id: 'fix.b', rank: 2 },
    ]);
    expect(task?.files.map(({ name }) => name)).to.deep.equal(['/m-1.jpg', '/m-2.jpg']);
    expect(task?.texts.map(({ after }) => after)).to.deep.equal(['last']);
    expect(other).to.include({ picture: '/other.jpg', saves: 0 });
  });
});

describe('a filter', () => {
  it('keeps fixes of the wanted checks, and their places on the wanted pages', () => {
    const run = someRun({
      fixes: [
        someFix({
          id: 'fix.a',
          checks: ['x'],
          pages: ['/', '/b/'],
          places: [place('/#1', ''), place('/b/#1', '', '/b/')],
        }),
        someFix({ id: 'fix.b', checks: ['y'], pages: ['/'] }),
      ],
    });
    const wantsPage = (path: string) => path === '/b/';
    const kept = filterRun(run, { wantsPage }).fixes;
    expect(kept.map(({ id, places }) => [id, places.map(({ placement }) => placement)])).to.deep.equal([
      ['fix.a', ['/b/#1']],
    ]);
    expect(filterRun(run, { checks: ['y'] }).fixes.map(({ id }) => id)).to.deep.equal(['fix.b']);
    expect(filterRun(run, { checks: ['y'], wantsPage }).fixes).to.deep.equal([]);
  });
});
