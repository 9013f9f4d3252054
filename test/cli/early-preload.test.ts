import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { readRun } from '../../src/core/run/index.js';
import { mendScreens } from '../support/mend-json.js';
import { auditRun, findingsOf, page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';

describe('a preload that is to be written by hand', function () {
  this.timeout(120_000);
  after(removeSites);

  it('asks for what the picture takes once the other edits are made, and for nothing beside it', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<div class="hero"></div>',
        '.hero{height:500px;background:url("hut (1).jpg") center/cover}',
      ),
      'hut (1).jpg': await photo(2400, 1600, 92),
    });
    const saved = join(await siteOf({}), 'run.json');
    const copy = join(await siteOf({}), 'copy');
    expect((await yukkuri(['audit', folder, ...mendScreens, '--json', saved])).code).to.equal(0);
    expect((await yukkuri(['mend', folder, '--from', saved, '--to', copy])).code).to.equal(0);

    const run = readRun(JSON.parse(await readFile(saved, 'utf8')));
    const notes = run.fixes.flatMap((fix) => (fix.checks.includes('main-picture-late') ? fix.notes : []));
    const [link = ''] = notes.flatMap((note) => /<link[^>]*>/.exec(note)?.[0] ?? []);
    const index = join(copy, 'index.html');
    const mended = await readFile(index, 'utf8');
    await writeFile(index, mended.replace('<title>', `${link}<title>`));

    const after = await auditRun(copy, ...mendScreens, '--encode', 'none');
    expect(findingsOf(after, 'main-picture-late')).to.deep.equal([]);
    const fetched = after.pages.flatMap(({ visits }) => visits.map(({ downloads }) => downloads.length));
    expect(fetched).to.deep.equal([1, 1]);
    // 500 px of 3 : 2 are 750 px wide, which a density of 2 makes 1,500 px; a window of 1,200 px needs 1,200 px.
    const names = after.pages.flatMap(({ visits }) =>
      visits.flatMap(({ downloads }) => downloads.map(({ url }) => url)),
    );
    for (const name of names) expect(name).to.match(/^\/hut%20\(1\)-\d+\.(avif|webp)$/);
  });
});
