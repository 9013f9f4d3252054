import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { auditRun, page, photo, removeSites, siteOf } from '../support/program.js';
import { mendJson, mendScreens as screens } from '../support/mend-json.js';

describe('a newer format', function () {
  this.timeout(300_000);
  after(removeSites);

  it('is offered so that nothing around the image lies elsewhere', async () => {
    const row = (className: string) =>
      `<div class="${className}"><img src="a.jpg" width="90" height="60" alt="One"><img src="b.jpg" width="90" height="60" alt="Two"></div>`;
    const folder = await siteOf({
      'index.html': page(
        `${row('flex')}${row('line')}${row('child')}<p>Text</p>`,
        '.flex{display:flex}.line{font-size:20px}.flex img,.line img{display:inline}.child > img{width:200px;height:auto;border-radius:9px}',
      ),
      'a.jpg': await photo(900, 600, 90),
      'b.jpg': await photo(960, 640, 92),
    });
    const copy = join(await siteOf({}), 'copy');
    const { out } = await mendJson(folder, '--to', copy);
    expect(out.proof?.layout.changes).to.deep.equal([]);
    const mended = await readFile(join(copy, 'index.html'), 'utf8');
    const [, flex = '', line = '', child = ''] = mended.split(/<div class="\w+">/);
    expect(flex).to.match(/^<picture style="display: contents"><source/);
    expect(line).to.match(/^<picture><source[^>]+><img[^>]+><\/picture><picture><source/);
    expect(child)
      .to.match(/^<img/)
      .and.not.match(/<picture/);
  });

  it('and a colour come beside what keeps the shape of an image that a style limits', async () => {
    const folder = await siteOf({
      'index.html': page('<img src="a.jpg" alt="One"><p>Text</p>', 'img{max-width:20em}'),
      'a.jpg': await photo(900, 600, 90),
    });
    const copy = join(await siteOf({}), 'copy');
    const { out } = await mendJson(folder, '--to', copy);
    expect(out.proof?.layout.changes).to.deep.equal([]);
    const mended = await readFile(join(copy, 'index.html'), 'utf8');
    expect(mended).to.match(/style="height: auto; background: #[0-9a-f]{6}"/);
  });
});

describe('a stripe on narrow screens', function () {
  this.timeout(300_000);
  after(removeSites);

  it('is cropped where a sharp crop can be cut, its box is free and a user asks for it', async () => {
    const style = '.free{max-width:100%;height:auto}.held{width:100%;height:95px}';
    const folder = await siteOf({
      'index.html': page(
        '<img class="free" src="wide.jpg" width="3200" height="760" alt="All ridges"><p>Text</p>',
        style,
      ),
      'held.html': page('<img class="held" src="wide.jpg" alt="All ridges">', style),
      'low.html': page('<img class="free" src="low.jpg" width="2400" height="300" alt="The crest">', style),
      'wide.jpg': await photo(3200, 760, 85),
      'low.jpg': await photo(2400, 300, 85),
    });
    const copy = join(await siteOf({}), 'copy');
    const { out, code } = await mendJson(folder, '--to', copy, '--crops');
    expect(code).to.equal(0);
    // 1,140 × 760 px of 3 : 2 are cut out; the phone shows 400 CSS px at a density of 2.
    const crops = out.files.filter(({ name }) => name.includes('crop'));
    expect(crops.map(({ name }) => name)).to.deep.equal(['/wide-crop-800.avif', '/wide-crop-800.jpg']);
    for (const { name } of crops) {
      const { width, height } = await sharp(join(copy, name)).metadata();
      expect([width, height]).to.deep.equal([800, 533]);
    }
    expect(await readFile(join(copy, 'index.html'), 'utf8')).to.match(
      /<source[^>]+media="\(max-width: 480px\)"[^>]+width="1140"\s+height="760">/,
    );
    const again = await auditRun(copy, ...screens);
    const shown = again.placements.find(({ page: path }) => path === '/');
    expect(shown?.downloads['phone']?.url).to.equal('/wide-crop-800.avif');
    expect(shown?.slots['phone']).to.include({ width: 400 });
    expect(shown?.slots['phone']?.height).to.be.closeTo((400 * 760) / 1140, 1);
    expect(shown?.downloads['desk']?.url).to.match(/^\/wide-\d+\.avif$/);
    const whys = again.fixes
      .filter(({ checks }) => checks.includes('thin-on-narrow-screens'))
      .flatMap(({ pages, notes }) => [...pages, notes.at(-1)]);
    expect(whys.join(' ')).to.match(/held.* gives the box its height/s);
    expect(whys.join(' ')).to.match(/low.* too low for it, a sharp crop takes 800 px across/s);
  });
});
