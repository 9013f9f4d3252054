import { expect } from 'chai';
import { auditRun, findingsOf, page, photo, removeSites, siteOf } from '../support/program.js';
import { mendedInPlace, mendScreens as screens } from '../support/mend-json.js';

const quick = ['--formats', 'none', '--encode', 'none'];

describe('Room for images', function () {
  this.timeout(300_000);
  after(removeSites);

  it('is written once for all that its want was found by', async () => {
    // As it is too short at first, the lazy image is fetched at once; and what follows jumps.
    const folder = await siteOf({
      'index.html': page(
        '<ul><li><img src="a.jpg" alt="" loading="lazy"></li><li><img src="b.jpg" alt="" loading="lazy"></li></ul><p>Text</p>',
        'ul{margin:0;padding:0;list-style:none}img{width:100%;height:auto}p{height:3000px}',
      ),
      'a.jpg': await photo(300, 3000),
      'b.jpg': await photo(310, 3000),
    });
    const run = await auditRun(folder, ...screens, ...quick);
    const found = (check: string) => findingsOf(run, check).length;
    expect([found('lazy-without-room'), found('no-dimensions')]).to.deep.equal([1, 2]);
    const fixes = run.fixes.filter(({ checks }) => checks.includes('no-dimensions'));
    expect(fixes.every(({ kind }) => kind === 'edit')).to.equal(true);
    expect(fixes.some(({ checks }) => checks.includes('lazy-without-room'))).to.equal(true);
  });

  it('is written where functions, or areas of a grid, limit how wide images get', async () => {
    const limits = [
      ['min(100%, 460px)', 460],
      ['clamp(100px, 50%, 460px)', 300],
      ['calc(100% - 2 * 1em)', 568],
      ['calc(100% * 2 / 4)', 300],
      ['max(40%, 300px)', 300],
    ] as const;
    const areas = [
      ['<div style="display:grid;grid-template-columns:100px 400px"><i></i>', 400],
      ['<div style="columns:2;column-gap:0">', 300],
      ['<div style="position:relative;width:500px;height:340px"><b style="display:block;width:90px">', 500],
    ] as const;
    const low = '<div style="height:220px">';
    const image = (style: string) => `<img src="a.jpg" alt="One" style="${style}">`;
    const folder = await siteOf({
      'index.html': page(
        limits.map(([limit]) => `${image(`max-width:${limit}`)}<p>Text</p>`).join('') +
          areas.map(([before]) => `${before}${image('max-width:100%')}</b></div>`).join('') +
          `${low}${image('max-width:80%;max-height:80%')}</div>`,
        'body{padding:0 15px}img{height:auto}b img{position:absolute}',
      ),
      'a.jpg': await photo(900, 600),
    });
    const run = await auditRun(folder, '--screen', 'narrow=630x800@1', ...quick);
    const allowed = run.placements.map(({ shown }) => shown['narrow']?.limitWidth);
    expect(allowed).to.deep.equal([...[...limits, ...areas].map(([, width]) => width), 480]);
    // Of 600 × 220 px; its shape makes it 264 × 176 px.
    expect(run.placements.at(-1)?.shown['narrow']?.limitHeight).to.equal(176);
    const { mended } = await mendedInPlace(folder, ...quick);
    expect(mended.match(/width="900"\s+height="600"/g)).to.have.lengthOf(limits.length + areas.length);
  });

  it('is written where sizes alone makes the box as wide as it is', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<img src="a.jpg" srcset="a-480.jpg 480w, a.jpg 1200w" sizes="(max-width: 300px) 100vw, 300px" alt="One"><p>Text</p>',
        'img{max-width:100%;height:auto}',
      ),
      'a.jpg': await photo(1200, 800),
      'a-480.jpg': await photo(480, 320),
    });
    const { copy, mended } = await mendedInPlace(folder, ...quick);
    expect(mended).to.match(/width="300"\s+height="200"/);
    const again = await auditRun(copy, ...screens, ...quick);
    expect(findingsOf(again, 'no-dimensions')).to.deep.equal([]);
  });

  it('is not written where an image that has no box yet claims another width than its file has', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<p>Text</p><details><summary>More</summary><img src="a.jpg" srcset="a-480.jpg 480w, a.jpg 1014w" sizes="(max-width: 1024px) 100vw, 1024px" alt="One"></details>',
      ),
      'a.jpg': await photo(1014, 676),
      'a-480.jpg': await photo(480, 320),
    });
    const { mended } = await mendedInPlace(folder, ...quick);
    expect(mended)
      .to.match(/loading="lazy"/)
      .and.not.match(/width="/);
  });

  it('is the same where logos of one height are as wide as their files make them', async () => {
    const sides = [
      [1657, 552],
      [613, 447],
      [999, 333],
      [731, 365],
    ] as const;
    const folder = await siteOf({
      'index.html': page(
        sides.map(([width]) => `<img src="${width}.jpg" alt="Logo ${width}"> `).join(''),
        'img{display:inline;height:68px}',
      ),
      ...Object.fromEntries(
        await Promise.all(sides.map(async ([width, height]) => [`${width}.jpg`, await photo(width, height)])),
      ),
    });
    const { mended } = await mendedInPlace(folder, '--formats', 'none');
    // 68 px of 1,657 : 552 are 204.1 px wide: 205 × 68 px would be too wide, 207 × 69 px are not.
    expect(mended).to.include('1657-207.jpg');
  });

  it('of images that are turned is that of their own sides, not that of what is around them', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<img src="a.jpg" alt="" style="width:200px;transform:rotate(30deg)"><div style="rotate:-10deg;scale:1.5"><img src="b.jpg" alt="" style="width:100px;padding:10px"></div><p>Text</p>',
        'img{display:block;margin:150px}',
      ),
      'a.jpg': await photo(1200, 800),
      'b.jpg': await photo(900, 900),
    });
    const run = await auditRun(folder, ...screens, ...quick);
    const [first, second] = run.placements.map(({ slots }) => slots['desk']);
    expect(first?.width).to.be.closeTo(200, 0.01);
    expect(first?.height).to.be.closeTo(133.33, 0.01);
    // 1.5 times as large.
    expect(second?.width).to.be.closeTo(150, 0.01);
    expect(second?.height).to.be.closeTo(150, 0.01);
    expect(findingsOf(run, 'stretched')).to.deep.equal([]);
  });
});
