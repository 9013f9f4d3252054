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
    const hero = (style: string) => page('<div class="hero"></div>', `.hero{height:500px;${style}}`);
    const pages = {
      // 500 px of 3 : 2 are 750 px wide, which a density of 2 makes 1,500 px; a window of 1,200 px needs 1,200 px.
      'wide.html': hero('background:url("hut (1).jpg") center/cover'),
      // 750 px at a density of 1, else 1,500 px.
      'fixed.html': hero('width:300px;background:url(lake.jpg) center/cover'),
    };
    const folder = await siteOf({
      ...pages,
      'hut (1).jpg': await photo(2400, 1600, 92),
      'lake.jpg': await photo(2400, 1602, 92),
    });
    const saved = join(await siteOf({}), 'run.json');
    const copy = join(await siteOf({}), 'copy');
    expect((await yukkuri(['audit', folder, ...mendScreens, '--json', saved])).code).to.equal(0);
    expect((await yukkuri(['mend', folder, '--from', saved, '--to', copy])).code).to.equal(0);

    const run = readRun(JSON.parse(await readFile(saved, 'utf8')));
    for (const name of Object.keys(pages)) {
      const late = run.fixes.find(
        (fix) => fix.checks.includes('main-picture-late') && fix.pages[0] === `/${name}`,
      );
      const links = late?.notes.flatMap((note) => note.match(/<link[^>]*>/g) ?? []) ?? [];
      expect(links, name).not.to.deep.equal([]);
      const mended = await readFile(join(copy, name), 'utf8');
      await writeFile(join(copy, name), mended.replace('<title>', `${links.join('')}<title>`));
    }

    // One that lies between the densities of the files.
    const between = ['--screen', 'between=1200x800@1.25,share=0.1'];
    const screens = ['--screen', 'phone=400x800@2,touch,share=0.5', '--screen', 'desk=1200x800@1,share=0.4'];
    const after = await auditRun(copy, ...screens, ...between, '--encode', 'none');
    expect(findingsOf(after, 'main-picture-late')).to.deep.equal([]);
    for (const { path, visits } of after.pages)
      for (const { screen, downloads } of visits) {
        expect(downloads, `${path} on ${screen}`).to.have.length(1);
        expect(downloads[0]?.url).to.match(/^\/(hut%20\(1\)|lake)-\d+\.(avif|webp)$/);
      }
  });
});
