import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { cacheRoom } from '../../dist/src/cache/index.js';
import { auditRun, page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';
import type { Run } from '../../src/core/run/index.js';

const screens = ['--screen', 'phone=400x800@2,share=0.5', '--screen', 'desk=1000x800@1,share=0.5'];

const withoutMeta = ({ meta: _, ...run }: Run) => JSON.stringify(run);
const visits = ({ meta }: Run) => meta.looks?.['visit'];

/** A page of this style sheet. */
const styled = (sheet: string) =>
  page(`<link rel="stylesheet" href="${sheet}.css"><img class="hut" src="a.jpg" alt="A hut"><p>Text</p>`);

describe('a site that was audited before', function () {
  this.timeout(180_000);
  let folder = '';
  let first: Run;
  const audit = (...more: string[]) => auditRun(folder, ...screens, ...more);

  before(async () => {
    folder = await siteOf({
      'one.html': styled('one'),
      'two.html': styled('two'),
      'three.html': styled('two'),
      'one.css': '.hut{width:100%}',
      'two.css': '.hut{width:50%}',
      'a.jpg': await photo(1600, 1200),
    });
    first = await audit();
  });
  after(removeSites);

  it('is seen without a visit, and the run is the same', async () => {
    expect(visits(first)).to.deep.equal({ made: 6, remembered: 0 });
    const second = await audit();
    expect(visits(second)).to.deep.equal({ made: 0, remembered: 6 });
    expect(second.meta.looks?.['sweep']).to.deep.equal({ made: 0, remembered: 3 });
    expect(second.meta.browser).to.equal(first.meta.browser);
    expect(withoutMeta(second)).to.equal(withoutMeta(first));
  });

  it('is visited where a style sheet that was edited is used, and nowhere else', async () => {
    await writeFile(join(folder, 'two.css'), '.hut{width:25%}');
    const edited = await audit();
    expect(visits(edited)).to.deep.equal({ made: 4, remembered: 2 });
    const widths = edited.placements.map(({ page: path, slots }) => [path, slots['desk']?.width]);
    expect(widths).to.deep.equal([
      ['/one.html', 1000],
      ['/three.html', 250],
      ['/two.html', 250],
    ]);
    // An earlier state is known again.
    await writeFile(join(folder, 'two.css'), '.hut{width:50%}');
    const back = await audit();
    expect(visits(back)).to.deep.equal({ made: 0, remembered: 6 });
    expect(withoutMeta(back)).to.equal(withoutMeta(first));
  });

  it('is visited anew when that is asked for, and where nothing is kept', async () => {
    for (const option of ['--fresh', '--no-cache']) {
      const again = await audit(option);
      expect(visits(again), option).to.deep.equal({ made: 6, remembered: 0 });
      expect(withoutMeta(again)).to.equal(withoutMeta(first));
    }
  });

  it('is seen without a visit when every file is read', async () => {
    const again = await audit('--no-trust-times');
    expect(visits(again)).to.deep.equal({ made: 0, remembered: 6 });
    expect(withoutMeta(again)).to.equal(withoutMeta(first));
  });

  it('is visited on a screen that is new, and known under another name', async () => {
    const named = await auditRun(
      folder,
      ...['--screen', 'small=400x800@2,share=0.5', '--screen', 'wide=1200x800@1,share=0.5'],
    );
    expect(visits(named)).to.deep.equal({ made: 3, remembered: 3 });
    expect(named.placements[0]?.slots['small']).to.deep.equal(first.placements[0]?.slots['phone']);
    expect(named.pages.flatMap((each) => each.visits.map(({ screen }) => screen))).to.deep.equal([
      'small',
      'wide',
      'small',
      'wide',
      'small',
      'wide',
    ]);
  });

  it('is visited only on the pages that a mended copy changes, for the proof', async () => {
    const site = await siteOf({
      'fine.html': page('<p>Text</p>'),
      'heavy.html': styled('one'),
      'one.css': '.hut{width:25%}',
      'a.jpg': await photo(1600, 1200),
    });
    // Other tests write to the cache that they share.
    const own = { XDG_CACHE_HOME: await siteOf({}) };
    const kept = join(own.XDG_CACHE_HOME, 'yukkuri', 'measured');
    const looks = async () => (await cacheRoom(kept)).entries.visit;
    await yukkuri(['audit', site, '--json', ...screens], own);
    // Two pages on two screens, and the sweep of one.
    expect(await looks()).to.equal(5);
    const copy = join(await siteOf({}), 'copy');
    const { out, code, err } = await yukkuri(['mend', site, '--to', copy, ...screens, '--json'], own);
    expect(code, err).to.equal(0);
    expect((JSON.parse(out) as { proof: { kept: boolean } }).proof.kept).to.equal(true);
    // One page of the copy on two screens, and its sweep.
    expect(await looks()).to.equal(8);
  });

  it('tells in the report how much was seen before', async () => {
    const { out } = await yukkuri(['audit', folder, ...screens]);
    expect(out).to.match(
      /Seen before: nothing that all 6 visits would see has changed since they were made\./,
    );
  });

  it('is told of by the cache, which is pruned and cleared', async () => {
    const told = await yukkuri(['cache']);
    expect(told.out).to.match(
      /^[\d,]+ measurements of pictures and [\d,]+ looks at pages, [\d,.]+ [kM]?B, in /,
    );
    const both = await yukkuri(['cache', '--clear', '--prune', '5']);
    expect(both.code).to.equal(2);
    expect((await yukkuri(['cache', '--prune', 'much'])).err).to.match(/--prune must be a number/);
  });
});
