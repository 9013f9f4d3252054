import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { auditRun, page, photo, removeSites, siteOf } from '../support/program.js';
import { mendedInPlace, mendJson, mendScreens as screens } from '../support/mend-json.js';

/** Where formats play no part: most of the time of a mend goes to encoding newer ones. */
const oldFormats = ['--formats', 'none'];

describe('a newer format', function () {
  this.timeout(300_000);
  after(removeSites);

  it('is offered so that nothing around the image lies elsewhere', async () => {
    const row = (className: string) =>
      `<div class="${className}"><img src="a.jpg" width="90" height="60" alt="One"><img src="b.jpg" width="90" height="60" alt="Two"></div>`;
    const folder = await siteOf({
      'index.html': page(
        `${row('flex')}${row('line')}${row('child')}<div class="gap"><img src="a.jpg" width="90" height="60" alt="One"><p>Beside it</p></div><div class="around"><span><img src="a.jpg" width="90" height="60" alt="One"></span></div><div class="parts"><picture><source media="(min-width: 2000px)" srcset="b.jpg"><img src="a.jpg" width="90" height="60" alt="One"></picture><p>Beside it</p></div><p>Text</p>`,
        '.around span{display:inline-flex}.around img{display:inline;vertical-align:bottom}.gap img{display:inline}.gap,.parts{display:inline-flex;gap:20px;align-items:flex-start;font-size:70px}.parts picture{display:contents}.flex{display:flex}.line{font-size:20px}.flex img,.line img{display:inline}.child > img{width:200px;height:auto;border-radius:9px}',
      ),
      'a.jpg': await photo(900, 600, 90),
      'b.jpg': await photo(960, 640, 92),
    });
    const { mended } = await mendedInPlace(folder);
    const [, flex = '', line = '', child = '', gap = '', around = '', parts = ''] =
      mended.split(/<div class="\w+">/);
    expect(flex).to.match(/^<picture style="display: contents"><source/);
    expect(line).to.match(/^<picture><source[^>]+><img[^>]+><\/picture><picture><source/);
    // In a flexible box a source would be an item of its own.
    expect(gap).to.match(/^<picture style="display: contents"><source\s+hidden\s/);
    // By what stands in it, the line around it gets another height.
    expect(around).to.match(/^<span><picture style="display: contents"><source\s+hidden\s/);
    expect(parts).to.match(/^<picture><source media[^>]+><source\s+hidden\s+type="image\/avif"/);
    expect(child)
      .to.match(/^<img/)
      .and.not.match(/<picture/);
  });

  it('and a colour come beside what keeps the shape of an image that a style limits', async () => {
    const folder = await siteOf({
      'index.html': page('<img src="a.jpg" alt="One"><p>Text</p>', 'img{max-width:20em}'),
      'a.jpg': await photo(900, 600, 90),
    });
    const { mended } = await mendedInPlace(folder);
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

describe('style attributes that show one image', () => {
  after(removeSites);

  it('are edited each where it stands, however they are written', async () => {
    const attributes = [
      'style="background-image: url(a.jpg)"',
      'style="background-image: url(&quot;a.jpg&quot;)"',
      `style='background-image: url("a.jpg")'`,
      'style=background-image:url(a.jpg)',
      `STYLE="background-image: url('a.jpg')"`,
    ];
    const folder = await siteOf({
      'index.html': page(
        // The script's copy of the last one changes with it.
        `${attributes.map((each) => `<p class="face" ${each}></p>`).join('<p>Text</p>')}<script>document.body.append(document.body.querySelector('.face:last-of-type').cloneNode())</script>`,
        '.face{width:80px;height:80px;background-size:cover}',
      ),
      'a.jpg': await photo(900, 600, 90),
    });
    const { mended } = await mendedInPlace(folder, ...oldFormats);
    const set = /image-set\(url\(a-120\.jpg\) 1x, url\(a-240\.jpg\) 2x\)/;
    const written = mended.match(/<p class="face" [^>]+>/g) ?? [];
    expect(written).to.have.lengthOf(attributes.length);
    for (const tag of written) expect(tag).to.match(set);
  });
});

describe('a style attribute', function () {
  this.timeout(60_000);
  after(removeSites);

  it('offers each density what its screens need, and a denser one no less', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<p class="part" style="background-image:url(a.jpg)"></p><p>Text</p><p class="whole" style="background-image:url(b.jpg)"></p>',
        '.part{width:30%;height:250px;background-size:cover}.whole{height:200px;background-size:cover}',
      ),
      'a.jpg': await photo(1800, 900, 90),
      'b.jpg': await photo(3200, 400, 90),
    });
    const three = [
      'phone=400x800@3,touch,share=0.4',
      'tablet=800x1000@2,touch,share=0.3',
      'desk=1900x900@1,share=0.3',
    ];
    const run = await auditRun(
      folder,
      ...three.flatMap((each) => ['--screen', each]),
      ...oldFormats,
      '--encode',
      'all',
    );
    const texts = run.fixes.flatMap(({ kind, places }) =>
      kind === 'edit' ? places.map(({ after }) => after) : [],
    );
    // A box of 570 × 250 px shows 570 px of 2 : 1, narrower ones 500.
    expect(texts.find((each) => each.includes('a-'))).to.contain(
      'url(a-570.jpg) 1x, url(a-1000.jpg) 2x, url(a-1500.jpg) 3x',
    );
    // Of 8 : 1 the boxes show 1,900 px at a density of 1, and 1,600 px at 2 and 3: up to 3,200 and 4,800 px, of which there are 3,200.
    expect(texts.find((each) => each.includes('b-'))).to.match(
      /url\(b-1900\.jpg\) 1x, url\(b(-light)?\.jpg\) 2x\)/,
    );
  });
});

describe('rules inside rules', () => {
  after(removeSites);

  it('are edited like others, and conditions in them stay conditions', async () => {
    const at = (more: string) => `display:block;${more};background:`;
    const style =
      `.card{color:#333;.in{${at('width:300px;height:200px')}url(a.jpg) 0 0/cover}> b{${at('width:150px;height:100px')}url(b.jpg) 0 0/cover}}` +
      `.wide{${at('height:200px')}url(c.jpg) 0 0/cover;@media (min-width:900px){background-image:url(d.jpg)}}` +
      `.only{@media (min-width:300px){${at('width:120px;height:80px')}url(e.jpg) 0 0/cover}}`;
    const body =
      '<div class="card"><i class="in"></i><b></b></div><div class="wide"></div><i class="only"></i>';
    const folder = await siteOf({
      'index.html': page(body, style),
      'a.jpg': await photo(1200, 800),
      'b.jpg': await photo(1203, 802),
      'c.jpg': await photo(1206, 804),
      // Drawn 1,200 px wide on one screen only: nothing of it is to spare.
      'd.jpg': await photo(1200, 300, 60),
      'e.jpg': await photo(1209, 806),
    });
    const { mended } = await mendedInPlace(folder, ...oldFormats);
    expect(mended).to.contain('image-set(url(a-300.jpg) 1x, url(a-600.jpg) 2x)');
    expect(mended).to.contain('image-set(url(b-150.jpg) 1x, url(b-300.jpg) 2x)');
    // 400 CSS px at a density of 2.
    expect(mended).to.match(
      /url\(c-800\.jpg\).*@media \(min-width:900px\)\{background-image:url\(d\.jpg\)\}\}/s,
    );
    expect(mended).to.match(
      /@media \(min-width:300px\)\{.*image-set\(url\(e-120\.jpg\) 1x, url\(e-240\.jpg\) 2x\)/,
    );
  });
});

describe('an image of a style', () => {
  after(removeSites);

  it('is edited in each rule that shows it somewhere, and in the custom property that holds it', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<div class="hero"></div><p>Text</p><div class="twice"></div><p>Text</p><div class="root"></div><p>Text</p><div class="own" style="--photo: url(d.jpg)"></div>' +
          '<p style="--photo: url(f.jpg)"><span class="own"></span></p>'.repeat(2) +
          // What a custom property holds is resolved against the sheet that shows it.
          '<link rel="stylesheet" href="css/far.css"><div class="far" style="--far: url(../g.jpg)"></div>' +
          '<div class="both"></div>',
        `.hero{height:300px;background:url(a.jpg) center/cover}
        @media(max-width:600px){.hero{background-image:url(b.jpg)}}
        .twice{width:200px;height:120px;background:url(c.jpg) center/cover}
        @media(max-width:600px){.twice{width:150px;background:url(c.jpg) center/cover}}
        .both{width:300px;height:200px;background:url(h.jpg) center/cover;mask-image:url(i.jpg);mask-size:cover}
        :root{--photo:url("e.jpg")}
        .root,.own{display:block;width:300px;height:200px;background:var(--photo) center/cover}`,
      ),
      'a.jpg': await photo(2400, 1600, 90),
      'b.jpg': await photo(1500, 1000, 90),
      'c.jpg': await photo(1200, 800, 90),
      'd.jpg': await photo(1260, 840, 90),
      'e.jpg': await photo(1320, 880, 90),
      'f.jpg': await photo(1290, 860, 90),
      'g.jpg': await photo(1230, 820, 90),
      'h.jpg': await photo(1350, 900, 90),
      'i.jpg': await photo(1200, 800, 60),
      'css/far.css': '.far{width:300px;height:200px;background:var(--far) center/cover}',
    });
    const { mended } = await mendedInPlace(folder, ...oldFormats);
    // A box of 1,200 × 300 px shows 1,200 px of 3 : 2, one of 400 × 300 px 450 at a density of 2.
    expect(mended).to.match(/\.hero\{height:300px;background:url\(a-1200\.jpg\)/);
    expect(mended).to.match(/\.hero\{background-image:url\(b-900\.jpg\)/);
    expect(mended).to.match(/\.twice\{width:200px;height:120px;background:url\(c-200\.jpg\)/);
    // 180 px of 3 : 2 are 120 px high.
    expect(mended).to.match(/\.twice\{width:150px;background:url\(c-360\.jpg\)/);
    expect(mended).to.match(/:root\{--photo:image-set\(url\(e-300\.jpg\) 1x, url\(e-600\.jpg\) 2x\)\}/);
    expect(
      mended.match(/<p style="--photo: image-set\(url\(f-300\.jpg\) 1x, url\(f-600\.jpg\) 2x\)"/g),
    ).to.have.lengthOf(2);
    expect(mended).to.match(/style="--photo: image-set\(url\(d-300\.jpg\) 1x, url\(d-600\.jpg\) 2x\)"/);
    // Two texts for one rule would undo each other: the other image's turn comes with the next audit.
    expect(mended).to.match(
      /\.both\{[^}]*background:image-set\(url\(h-300\.jpg\) 1x, url\(h-600\.jpg\) 2x\)[^}]*mask-image:url\(i\.jpg\)/,
    );
    expect(mended).to.match(/"--far: image-set\(url\(\.\.\/g-300\.jpg\) 1x, url\(\.\.\/g-600\.jpg\) 2x\)"/);
  });
});

describe('dimensions that are written', function () {
  this.timeout(300_000);
  after(removeSites);

  const style =
    '.fluid img{max-width:100%;height:auto}.limited img{max-width:100%}.row{display:flex;gap:16px}td{width:auto}';
  const images = {
    wide: '<p><img src="a.jpg" width="210" alt="One"> text</p>',
    fluid: '<div class="fluid"><p><img src="b.jpg" width="220" alt="Two"> text</p></div>',
    icon: '<div class="fluid row"><div><img src="c.jpg" width="48" height="24" alt="Three"> text</div><div>text</div></div>',
    part: '<p><img src="d.jpg" width="50%" alt="Four"> text</p>',
    natural: '<p class="limited"><img src="e.jpg" alt="Five"> text</p>',
  };

  it('leave every box as wide and as high as it is: an attribute that gives a side stays', async () => {
    const folder = await siteOf({
      'index.html': page(Object.values(images).join('\n'), style),
      'a.jpg': await photo(900, 600, 90),
      'b.jpg': await photo(800, 600, 90),
      'c.jpg': await photo(500, 500, 90),
      'd.jpg': await photo(1200, 800, 90),
      'e.jpg': await photo(372, 248, 90),
    });
    const { tagOf } = await mendedInPlace(folder, ...oldFormats);
    expect(tagOf('One'))
      .to.match(/width="210"\s+height="140"/)
      .and.not.match(/height: auto/);
    expect(tagOf('Two')).to.match(/width="220"\s+height="165"/);
    expect(tagOf('Three')).to.match(/width="48"\s+height="48"/);
    expect(tagOf('Four'))
      .to.match(/width="1200"\s+height="800"/)
      .and.match(/width: 50%; height: auto/);
    // At 320 px it is narrower than its file, which no audited screen shows.
    expect(tagOf('Five'))
      .to.match(/width="372"\s+height="248"/)
      .and.match(/height: auto/);
  });
});

describe('images whose boxes follow from their files', function () {
  this.timeout(300_000);
  after(removeSites);

  it('in a table get no list of widths: each claim would make the columns others', async () => {
    const cells = ['a', 'b', 'c'].map(
      (name) => `<td><img src="${name}.jpg" width="100%" alt="One"></td><td>ledge heath scree vale</td>`,
    );
    const folder = await siteOf({
      'index.html': page(`<table><tr>${cells.join('')}</tr></table>`),
      'a.jpg': await photo(600, 400, 90),
      'b.jpg': await photo(900, 600, 90),
      'c.jpg': await photo(750, 500, 90),
    });
    const run = await auditRun(folder, ...screens, ...oldFormats);
    for (const { shown } of run.placements) expect(shown['phone']?.followsFile).to.equal(true);
    // Another format at the same size changes nothing.
    const { mended } = await mendedInPlace(folder);
    expect(mended)
      .to.match(/<source\s+type="image\/avif"\s+srcset="a\.avif"/)
      .and.not.match(/\d+w/);
  });

  it('in a table wider than all its files get none either', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<table width="100%"><tr><td><img src="a.jpg" width="100%" alt="One"></td><td><img src="b.jpg" width="100" alt="Two"></td></tr></table>',
      ),
      'a.jpg': await photo(900, 600, 90),
      'b.jpg': await photo(300, 200, 90),
    });
    const run = await auditRun(folder, ...screens, ...oldFormats);
    const [first] = run.placements;
    expect(first?.slots['desk']?.width).to.be.greaterThan(900);
    expect(first?.shown['desk']?.followsFile).to.equal(true);
    const { tagOf } = await mendedInPlace(folder, ...oldFormats);
    expect(tagOf('One')).to.not.match(/\d+w/);
  });

  it('in a frame and on a page of their own get one text, which holds in both', async () => {
    const folder = await siteOf({
      'index.html': page('<iframe src="inner.html" width="300" height="220"></iframe><p>Text</p>'),
      'inner.html': page('<img src="a.jpg" alt="One">', 'img{width:100%;height:auto}'),
      'a.jpg': await photo(1200, 800, 95),
    });
    const run = await auditRun(folder, ...screens, ...oldFormats);
    const [fix, ...others] = run.fixes.filter(({ kind }) => kind === 'edit');
    expect(others).to.deep.equal([]);
    // What the frame's image takes afterwards counts as well, and what only it would need is left to a person.
    expect(fix?.places.map(({ page: path, source }) => [path, source?.file])).to.have.deep.members([
      ['/', 'inner.html'],
      ['/inner.html', 'inner.html'],
    ]);
    const copy = join(await siteOf({}), 'copy');
    const { out, code } = await mendJson(folder, '--to', copy, ...oldFormats);
    expect(code).to.equal(0);
    const { promised, achieved } = out.proof?.average ?? {};
    expect(promised).to.be.greaterThan(0).and.equal(achieved);
    const again = await auditRun(copy, ...screens, ...oldFormats);
    expect(again.fixes.filter(({ kind }) => kind === 'edit')).to.deep.equal([]);
  });

  it('in a frame are never asked for twice: on touch screens browsers look ahead by the page around it', async () => {
    const folder = await siteOf({
      'index.html': page('<iframe src="inner.html" width="500" height="350"></iframe><p>Text</p>'),
      'inner.html': page('<img src="a.jpg" alt="One">', 'img{width:100%;height:auto}'),
      // A document in an attribute is written in its quotes, by names of characters or by their numbers.
      'written.html': page(
        '<iframe width="500" height="350" srcdoc="<p>Two &quot;huts&quot;</p>\n<img src=&#34;a.jpg&#34; alt=&quot;Two&quot;>"></iframe>',
      ),
      'a.jpg': await photo(1500, 1000, 95),
    });
    const copy = join(await siteOf({}), 'copy');
    const { out, code } = await mendJson(folder, '--to', copy, ...oldFormats);
    expect(code).to.equal(0);
    const run = await auditRun(copy, ...screens, ...oldFormats);
    const asked = run.pages.map(({ visits }) => visits.map(({ downloads }) => downloads.length));
    expect(asked).to.deep.equal([
      [1, 1],
      [1, 1],
      [1, 1],
    ]);
    const written = await readFile(join(copy, 'written.html'), 'utf8');
    expect(written).to.match(
      /srcdoc="<p>Two &quot;huts&quot;<\/p>\n<img[^"]* src=&quot;a[^"]+\.jpg&quot;[^"]*>">/,
    );
    expect(out.proof?.average.promised).to.equal(out.proof?.average.achieved);
  });

  it('in a block that is only as wide as they are stay so: no attribute may widen it', async () => {
    const list = 'src="a.jpg" srcset="a-300.jpg 300w, a.jpg 1500w" sizes="50vw"';
    const folder = await siteOf({
      'index.html': page(
        `<figure><img ${list} alt="One"><figcaption>A caption</figcaption></figure><p>Text</p>`,
        'figure{display:table;margin:0}img{max-width:100%;height:auto}',
      ),
      'a.jpg': await photo(1500, 1000, 85),
      'a-300.jpg': await photo(300, 200, 85),
    });
    const run = await auditRun(folder, ...screens, ...oldFormats);
    const [image] = run.placements;
    // The table may be as wide as the page, and its image then too.
    for (const { name, width } of run.screens) {
      expect(image?.slots[name]?.width).to.be.closeTo(width / 2, 0.1);
      expect(image?.shown[name]?.limitWidth).to.equal(width);
    }
    await mendedInPlace(folder, ...oldFormats);
    const byHand = run.fixes.filter(({ kind }) => kind === 'hand').flatMap(({ checks }) => checks);
    expect(byHand).to.include('no-dimensions');
  });

  it('and those that sizes holds at 300 by 150 px, since it begins with auto, keep it so', async () => {
    const image = (name: string, more: string) =>
      `<img src="${name}.jpg" srcset="${name}-800.jpg 800w, ${name}.jpg 2400w" sizes="auto, 100vw" ${more}>`;
    const folder = await siteOf({
      'index.html': page(
        `<main>${image('a', 'alt="One"')}${image('b', 'loading="lazy" width="2400" height="1600" alt="Two"')}</main>`,
        'main{width:50%}img{width:100%;height:auto}',
      ),
      'a.jpg': await photo(2400, 1600, 85),
      'a-800.jpg': await photo(800, 533, 85),
      'b.jpg': await photo(2400, 1600, 86),
      'b-800.jpg': await photo(800, 533, 86),
    });
    const { tagOf } = await mendedInPlace(folder, ...oldFormats);
    expect(tagOf('One')).to.match(/sizes="auto, 100vw"/);
    // Where dimensions give its shape it is loaded at once, and says what it takes.
    expect(tagOf('Two'))
      .to.match(/sizes="50vw"/)
      .and.not.match(/lazy/);
  });

  it('or seem to, are swept where sizes claim the viewport and a style allows less', async () => {
    const file = (width: number) => `a-${width}.jpg`;
    const folder = await siteOf({
      'index.html': page(
        `<main><img src="a.jpg" srcset="${file(480)} 480w, ${file(960)} 960w, a.jpg 1800w" alt="One"></main>`,
        'body{margin:0}main{max-width:600px;margin:0 auto;padding:0 20px}@media(max-width:700px){main{max-width:none}}img{max-width:100%;height:auto}',
      ),
      'a.jpg': await photo(1800, 1200, 85),
      [file(480)]: await photo(480, 320, 85),
      [file(960)]: await photo(960, 640, 85),
    });
    const run = await auditRun(folder, ...screens, ...oldFormats);
    // 700 px less the padding; from 701 px on 600 px less the padding, as box-sizing has it here.
    const [sweep] = run.sweeps;
    expect(sweep?.reason).to.equal(null);
    expect(sweep?.pieces.at(0)).to.include({ from: 320, to: 700, slotTo: 660 });
    expect(sweep?.pieces.at(0)?.slotFrom).to.be.closeTo(280, 0.05);
    expect(sweep?.pieces.at(-1)).to.include({ slotFrom: 600, to: 2560, slotTo: 600 });
    const [fix] = run.fixes.filter(({ places }) => places.some(({ after }) => /sizes=/.test(after)));
    expect(fix?.places[0]?.after.replace(/\s+/g, ' ')).to.include(
      '(max-width: 700px) calc(100vw - 40px), 600px',
    );
  });
});

describe('what a promise cannot know', function () {
  this.timeout(300_000);
  after(removeSites);

  it('an image that a script fetches later once room is kept above breaks no promise, and is told', async () => {
    const script =
      'new IntersectionObserver((all)=>all.forEach(({isIntersecting,target})=>{if(isIntersecting&&!target.src)target.src=target.dataset.src})).observe(document.querySelector("[data-src]"))';
    const above = ['a', 'b', 'c', 'd', 'e', 'f'].map((name) => `<img src="${name}.jpg" alt="One">`);
    const folder = await siteOf({
      'index.html': page(
        `${above.join('')}<img data-src="z.jpg" width="300" height="200" alt="Last"><script>${script}</script>`,
        'img{width:100%;height:auto}[data-src]{width:300px;height:200px}',
      ),
      'z.jpg': await photo(900, 600, 90),
      ...Object.fromEntries(
        await Promise.all(
          above.map(async (_, index) => [`${'abcdef'[index]}.jpg`, await photo(800 + 10 * index, 600, 90)]),
        ),
      ),
    });
    const { out, code } = await mendJson(folder, '--to', join(await siteOf({}), 'copy'), ...oldFormats);
    // The script takes a smaller version from its attribute, and at another time.
    expect(out.proof?.later.map(({ url }) => url)).to.include('/z-600.jpg');
    const phone = out.proof?.screens['phone'];
    expect(phone?.achieved).to.be.greaterThan((phone?.promised ?? 0) + 5000);
    expect(phone?.kept).to.equal(true);
    expect(code).to.equal(0);
  });

  it('copies that a script makes of an edited element change with it', async () => {
    const script =
      "const strip = document.querySelector('.strip'); strip.append(strip.firstElementChild.cloneNode(true)); strip.prepend(strip.children[1].cloneNode(true))";
    const folder = await siteOf({
      'index.html': page(
        `<div class="strip"><div><img src="a.jpg" alt="One"></div><div><img src="b.jpg" alt="Two"></div></div><script>${script}</script>`,
        '.strip{display:flex;overflow:hidden}.strip div{flex:none;width:200px}.strip img{width:100%;height:auto}',
      ),
      'a.jpg': await photo(900, 600, 90),
      'b.jpg': await photo(960, 640, 90),
    });
    const { out, code } = await mendJson(folder, '--to', join(await siteOf({}), 'copy'), ...oldFormats);
    expect(Object.values(out.proof?.screens ?? {})).to.have.length(2);
    for (const { promised, achieved, kept } of Object.values(out.proof?.screens ?? {})) {
      expect(promised).to.be.greaterThan(50_000).and.equal(achieved);
      expect(kept).to.equal(true);
    }
    expect(code).to.equal(0);
  });

  it('a version too small to be compared is made all the same', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<img src="a.jpg" width="30" height="12" alt="One"><img class="large" src="a.jpg" alt="Two">',
        '.large{width:300px;height:auto}',
      ),
      'a.jpg': await photo(1200, 480, 90),
    });
    const { out } = await mendJson(folder, '--to', join(await siteOf({}), 'copy'), ...oldFormats);
    expect(out.files.some(({ name }) => /-(30|60)\b/.test(name))).to.equal(true);
    for (const { problem } of out.files) expect(problem).to.equal(null);
  });
});

describe('a page that does not ask for the screen’s own width', function () {
  this.timeout(300_000);
  after(removeSites);

  it('is laid out, picks and is mended on 980 px of a touch screen', async () => {
    const head = '<!doctype html><html lang="en"><meta charset="utf-8"><title>Test</title>';
    const folder = await siteOf({
      'index.html': `${head}<style>body{margin:0}img{display:block;width:50vw;height:auto}</style><body><img src="a-400.jpg" srcset="a-400.jpg 400w, a.jpg 1800w" sizes="(max-width: 600px) 100px, 100vw" width="1800" height="1200" alt="One">`,
      'a-400.jpg': await photo(400, 267, 85),
      'a.jpg': await photo(1800, 1200, 85),
    });
    const run = await auditRun(folder, ...screens, ...oldFormats);
    const [placement] = run.placements;
    expect(placement?.viewports).to.have.keys('phone');
    expect(placement?.viewports?.['phone']?.width).to.equal(980);
    expect(placement?.slots['phone']?.width).to.equal(490);
    // On 400 px the condition would hold, and 100 px be claimed.
    expect(placement?.picks['phone']).to.deep.equal({ predicted: '/a.jpg', observed: '/a.jpg' });
    const copy = join(await siteOf({}), 'copy');
    const { out, code } = await mendJson(folder, '--to', copy, ...oldFormats);
    expect(code).to.equal(0);
    expect(Object.values(out.proof?.fixes ?? {}).every(({ kept }) => kept)).to.equal(true);
    expect(out.proof?.layout.changes).to.deep.equal([]);
    // 490 px of 980, nothing stands out.
    expect(run.findings.map(({ check }) => check)).not.to.include('wider-than-screen');
  });
});

describe('an image that nothing shows yet', function () {
  this.timeout(300_000);
  after(removeSites);

  it('is made lazy so that it keeps its shape once it is shown', async () => {
    const slide = (alt: string, name: string) =>
      `<div class="slide ${name}"><img src="${name}.jpg" alt="${alt}"></div>`;
    const folder = await siteOf({
      'index.html': page(
        `<main>${slide('One', 'on')}${slide('Two', 'off')}</main><button onclick="document.querySelector('.off').className += ' on'">Next</button>`,
        'main{width:300px}.slide{display:none}.on{display:block}.slide img{width:100%}',
      ),
      'on.jpg': await photo(900, 600, 80),
      'off.jpg': await photo(960, 600, 80),
    });
    const { tagOf } = await mendedInPlace(folder, ...oldFormats);
    // 300 px wide, it is 188 px high as before, and not the 600 px of its attribute.
    expect(tagOf('Two'))
      .to.match(/loading="lazy"/)
      .and.match(/height="600"/)
      .and.match(/height: auto/);
  });

  it('is not fetched any more where it stands in what is closed', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<details><summary>More</summary><img src="a.jpg" alt="One"></details><div class="skipped"><img src="b.jpg" alt="Two"></div>',
        'img{max-width:100%}.skipped{content-visibility:hidden;height:200px}',
      ),
      'a.jpg': await photo(900, 600, 80),
      'b.jpg': await photo(960, 600, 80),
    });
    const run = await auditRun(folder, ...screens, ...oldFormats);
    const found = run.findings.filter(({ check }) => check === 'fetched-never-shown');
    expect(found).to.have.length(2);
    expect(run.totals.average.expectedAfter).to.equal(0);
    const { tagOf } = await mendedInPlace(folder, ...oldFormats);
    for (const alt of ['One', 'Two'])
      expect(tagOf(alt))
        .to.match(/loading="lazy"/)
        .and.match(/height: auto/);
  });
});
