import { join } from 'node:path';
import { expect } from 'chai';
import { mendJson } from '../support/mend-json.js';
import { auditRun, page, photo, removeSites, siteOf } from '../support/program.js';

const screens = ['--screen', 'phone=400x800@2', '--screen', 'desk=1000x800@1'];

describe('what gives a box its width', function () {
  this.timeout(240_000);
  after(removeSites);

  const side = async (body: string, style: string, more: Record<string, string> = {}) => {
    const folder = await siteOf({ 'index.html': page(body, style), 'a.jpg': await photo(600, 400), ...more });
    const run = await auditRun(folder, ...screens, '--encode', 'none');
    const { phone, desk } = run.placements[0]?.shown ?? {};
    return [phone?.widthFrom, desk?.widthFrom];
  };

  it('is no rule of a container query that does not hold', async () => {
    const style = '.card{container-type:inline-size}@container (min-width:500px){.card img{width:50%}}';
    expect(await side('<div class="card"><img src="a.jpg" alt=""></div>', style)).to.deep.equal([
      'nothing',
      'style',
    ]);
  });

  it('is the container of that name, where a query names one', async () => {
    const style =
      '.outer{container:outer / inline-size;width:300px}.inner{container-type:inline-size;width:900px}' +
      '@container outer (min-width:500px){img{width:50%}}@container (min-width:500px){img{width:auto}}';
    expect(
      await side('<div class="outer"><div class="inner"><img src="a.jpg" alt=""></div></div>', style),
    ).to.deep.equal(['auto', 'auto']);
  });

  it('is a nested rule too', async () => {
    const style = '.card{color:#333;& img{width:60%}}';
    expect(
      await side('<div class="card"><img src="a.jpg" width="600" height="400" alt=""></div>', style),
    ).to.deep.equal(['style', 'style']);
  });

  it('is no sheet that is for other media, no rule that the browser does not support', async () => {
    const style = '@supports (display: no-such-thing){img{width:auto}}@starting-style{img{width:auto}}';
    const link = '<link rel="stylesheet" media="print" href="print.css"><img src="a.jpg" alt="">';
    expect(await side(link, style, { 'print.css': 'img{width:auto;height:auto}' })).to.deep.equal([
      'nothing',
      'nothing',
    ]);
  });

  it('is told apart from what shows a background, which stands in the rule around it or in a nested one', async () => {
    const box = 'width:300px;height:200px;background-color:#eee';
    const folder = await siteOf({
      'index.html': page(
        '<div class="card"><b>Text</b></div><div class="list"><i></i></div>',
        `.card{${box};& b{color:#444} background-image:url(a.jpg)}.list{color:#333;& i{display:block;${box};background-image:url(b.jpg)}}`,
      ),
      'a.jpg': await photo(600, 400),
      'b.jpg': await photo(600, 402),
    });
    const { placements } = await auditRun(folder, ...screens, '--encode', 'none');
    expect(placements.map(({ source, downloads }) => [source?.file, downloads['desk']?.url])).to.deep.equal([
      ['index.html', '/a.jpg'],
      ['index.html', '/b.jpg'],
    ]);
  });

  it('stays so where dimensions are written', async () => {
    const style = '.card{container-type:inline-size}@container (min-width:500px){.card img{width:50%}}';
    const folder = await siteOf({
      'index.html': page(
        '<div class="card"><img src="a.jpg" srcset="a.jpg 600w, b.jpg 300w" sizes="(max-width:500px) 100vw, 50vw" alt=""></div>',
        style,
      ),
      'a.jpg': await photo(600, 400),
      'b.jpg': await photo(300, 200),
    });
    const copy = join(await siteOf({}), 'copy');
    const { out, err } = await mendJson(folder, '--to', copy, '--formats', 'none');
    expect(out.proof?.layout.changes, err).to.deep.equal([]);
    expect(out.proof?.layout.pages).to.equal(1);
  });
});
