import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { ridges } from '../support/varied-pictures.js';
import { auditRun, findingsOf, page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';
import { sharedAudit } from '../support/shared-audit.js';

const oneScreen = ['--screen', 'desk=1000x800@1', '--encode', 'none'];
const bothScreens = ['--screen', 'phone=400x800@1,share=0.5', ...oneScreen];
const image = (src: string, more = '') => `<img src="${src}" width="400" height="300" alt="x" ${more}>`;

/** Names of the checks that found something on each page, without those that speak of bytes and pixels of test pictures. */
async function named(folder: string, check: string, ...options: string[]): Promise<string[]> {
  const run = await auditRun(folder, ...(options.length > 0 ? options : oneScreen));
  return findingsOf(run, check).map(({ placement }) => placement.split('#')[0] ?? '');
}

describe('the whole visit', function () {
  this.timeout(180_000);
  after(removeSites);
  const shared = sharedAudit(...oneScreen);

  const moving = shared(async () => ({
    'index.html': page(
      '<img src="a.jpg" style="width:400px" alt="x"><p style="margin:0;height:100px">Below</p>',
    ),
    'room.html': page(`${image('a.jpg')}<p>Below</p>`),
    'space.html': page(
      '<div style="display:flow-root;line-height:20px"><a href="#"><img src="a.jpg" style="display:inline" alt=""></a>&nbsp;</div>',
    ),
    'far.html': page('<p style="height:4000px;margin:0">Above</p><img src="a.jpg" alt="x"><p>Below</p>'),
    'table.html': page(
      '<table><tr><td style="height:3000px;vertical-align:top"><div>Left</div><td style="vertical-align:top">Right<tr><td><img src="a.jpg" alt="x"><td></table>',
      'table{border-spacing:0}td{padding:0}div{width:100px}',
    ),
    'shrinks.html': page(
      '<img src="low.jpg" alt="x"><img src="lower.jpg" alt="x" onload="document.querySelector(`div`).remove()"><div style="height:3000px"></div><section><p style="margin:0;height:100px">Below</p></section>',
    ),
    'a.jpg': await photo(400, 300),
    'low.jpg': await photo(400, 100),
    'lower.jpg': await photo(400, 60),
  }));

  const shiftOf = async (name: string) =>
    (await moving()).pages.find(({ path }) => path.endsWith(`/${name}`))?.visits[0]?.shift;

  it('knows of an image far below that nothing in view moves when it comes', async () => {
    const shift = await shiftOf('far.html');
    expect(shift).to.include({ score: 0, observed: 0 });
    expect(shift?.releases.map(({ url, selectors, count }) => [url, selectors, count])).to.deep.equal([
      ['/a.jpg', ['body > img'], 0],
    ]);
  });

  it('knows of one that makes a column wider, which begins in view', async () => {
    const shift = await shiftOf('table.html');
    expect(shift?.observed).to.be.above(0.01);
    expect(shift?.score).to.be.closeTo(shift?.observed ?? NaN, 0.0005);
    // The column of 100 px is as wide as the image then, 400 px.
    const [release] = shift?.releases ?? [];
    expect(release?.url).to.equal('/a.jpg');
    expect(release?.moved.map(({ by }) => by)).to.include(300);
  });

  it('knows how far it was to what comes into view from far below, though it was not looked at in between', async () => {
    const shift = await shiftOf('shrinks.html');
    // The paragraph goes from 3000 px to 3100 px with the first image, and with the second to 160 px, below both.
    const last = shift?.releases.find(({ url }) => url === '/lower.jpg');
    expect(last?.moved.map(({ name, by }) => [name, by])).to.deep.include(['body > section > p', 2940]);
    expect(last?.observed).to.be.above(0.01);
    expect(last?.score).to.be.closeTo(last?.observed ?? NaN, 0.005);
  });

  it('counts a space that does not break as the browser does: it moves beside an image that comes', async () => {
    const shift = await shiftOf('space.html');
    // It goes 400 px to the right of 1000, and to the foot of the image.
    expect(shift?.observed).to.be.above(0.003);
    expect(shift?.score).to.be.closeTo(shift?.observed ?? NaN, 0.0005);
    expect(shift?.releases.flatMap(({ moved }) => moved.map(({ by }) => by))).to.include(400);
  });

  it('tells what one image moved when it came, as the browser does', async () => {
    const run = await moving();
    const shift = run.pages[0]?.visits[0]?.shift;
    // The paragraph, 1000 × 100 px, moves down by 300 px: it covers 1000 × 200 px of 1000 × 800, and 300 / 1000 of the way.
    expect(shift?.score).to.be.closeTo((200 / 800) * 0.3, 0.0001);
    expect(shift?.observed).to.be.closeTo((200 / 800) * 0.3, 0.0001);
    expect(shift?.releases.map(({ url, count }) => [url, count])).to.deep.equal([['/a.jpg', 1]]);
    const [finding] = findingsOf(run, 'no-dimensions');
    expect(finding?.says).to.match(/1 thing moved when it came, body > p by 300 px: layout shift 0\.075/);
    expect(await shiftOf('room.html')).to.deep.equal({ score: 0, observed: 0, releases: [] });
  });

  const doubled = shared(async () => {
    const [a, b, c] = [await photo(400, 300), await photo(401, 300), await photo(402, 300)];
    return {
      'hidden.html': page(`${image('a.jpg')}<div style="display:none">${image('b.jpg')}</div>`),
      'lazy.html': page(
        `${image('a.jpg')}<div style="display:none">${image('b.jpg', 'loading="lazy"')}</div>`,
      ),
      'empty.html': page(
        `${image('a.jpg')}<div style="height:3000px"></div>${image('c.jpg', 'style="width:0;height:0"')}`,
      ),
      'twice.html': page(image('a.jpg') + image('copy.jpg')),
      'preload.html': `<!doctype html><title>x</title><link rel="preload" as="image" href="c.jpg">${image('a.jpg')}`,
      'right.html': `<!doctype html><title>x</title><link rel="preload" as="image" href="a.jpg">${image('a.jpg')}`,
      'a.jpg': a,
      'copy.jpg': a,
      'b.jpg': b,
      'c.jpg': c,
    };
  });

  it('finds hidden variants, equal files and preloads that miss, each with all of its bytes', async () => {
    const [a, b, c] = [await photo(400, 300), await photo(401, 300), await photo(402, 300)];
    const run = await doubled();
    const saves = (check: string) =>
      findingsOf(run, check).map(({ placement, screens }) => [
        placement.split('#')[0],
        screens['desk']?.saves,
      ]);
    expect(saves('fetched-never-shown')).to.deep.equal([
      ['/empty.html', 0],
      ['/hidden.html', b.length],
    ]);
    const unseen = run.fixes.filter(({ checks }) => checks.includes('fetched-never-shown'));
    // Lazy loading spares what has no box; an image with an empty one is fetched all the same, so nothing is claimed.
    expect(unseen.map(({ pages, kind }) => [pages, kind])).to.have.deep.members([
      [['/empty.html'], 'hand'],
      [['/hidden.html'], 'edit'],
    ]);
    expect(saves('same-picture-twice')).to.deep.equal([['/twice.html', a.length]]);
    expect(saves('preload-misses-pick')).to.deep.equal([['/preload.html', c.length]]);
  });

  it('looks at the waiting page: blank, a colour, a gradient, an inlined copy', async () => {
    const folder = await siteOf({
      'blank.html': page(image('a.jpg')),
      'colour.html': page(image('a.jpg', 'style="background:#ccd"')),
      'gradient.html': page(image('a.jpg', 'style="background:linear-gradient(#abc,#cba)"')),
      'copy.html': page(image('a.jpg', 'style="background:url(data:image/gif;base64,R0lGODlhAQABAAAAACw=)"')),
      'a.jpg': await photo(400, 300),
    });
    const run = await auditRun(folder, ...oneScreen);
    expect(run.placements.map(({ page: path, shown }) => [path, shown['desk']?.waiting])).to.deep.equal([
      ['/blank.html', 'blank'],
      ['/colour.html', 'colour'],
      ['/copy.html', 'inlined-picture'],
      ['/gradient.html', 'gradient'],
    ]);
    const [fix] = run.fixes.filter(({ checks }) => checks.includes('blank-while-waiting'));
    expect(fix?.pages).to.deep.equal(['/blank.html']);
    expect(fix?.edits[0]?.after).to.match(/style="background: #[0-9a-f]{6}"/);
    expect(fix?.notes.join()).to.match(/linear-gradient.*data:image\/(webp|avif)/);
  });

  const styled = shared(async () => ({
    'index.html': `<!doctype html><title>x</title><link rel="stylesheet" href="a.css"><div class="band"></div><div class="unused"></div><ul><li>x</li></ul><object data="o.jpg" width="300" height="200"></object><my-hut></my-hut><script>customElements.define('my-hut', class extends HTMLElement { connectedCallback() { this.attachShadow({ mode: 'open' }).innerHTML = '<p><img src="s.jpg" width="200" height="150" alt="x"></p>'; } });</script>`,
    'a.css':
      '.band { height: 200px;\n  background: url("band.jpg") center / cover }\n@media (max-width: 100px) { .unused { background: url(none.jpg) } }\nli { list-style-image: url(dot.png) }\n',
    'band.jpg': await photo(500, 100),
    'o.jpg': await photo(300, 200),
    's.jpg': await photo(200, 150),
    'dot.png': await sharp({ create: { width: 8, height: 8, channels: 3, background: '#333' } })
      .png()
      .toBuffer(),
  }));

  it('sees images of style sheets at their rule, of shadow roots and of objects', async () => {
    const run = await styled();
    const seen = run.placements.map(({ kind, source, downloads }) => [
      kind,
      source && `${source.file}:${source.line}`,
      downloads['desk']?.url,
    ]);
    expect(seen).to.deep.include(['css-image', 'a.css:2', '/band.jpg']);
    expect(seen).to.deep.include(['css-image', 'a.css:4', '/dot.png']);
    expect(seen).to.deep.include(['object', 'index.html:1', '/o.jpg']);
    expect(seen).to.deep.include(['img', null, '/s.jpg']);
    expect(JSON.stringify(seen)).not.to.contain('none.jpg');
    // 500 × 100 px cover 1000 × 200 CSS px (the body has margins of 8 px): drawn 1,000 px wide, twice what there is.
    const [band] = findingsOf(run, 'upscaled').filter(
      ({ screens }) => screens['desk']?.['fileWidth'] === 500,
    );
    expect(band?.screens['desk']?.['upscale']).to.be.closeTo(2, 0.05);
  });

  it('knows what visitors without script miss', async () => {
    const late =
      '<script>for (const i of document.querySelectorAll("[data-src]")) i.src = i.dataset.src</script>';
    const folder = await siteOf({
      'script.html': page(`<img data-src="a.jpg" width="400" height="300" alt="x">${late}`),
      'both.html': page(
        `<img data-src="a.jpg" width="400" height="300" alt="x"><noscript>${image('a.jpg')}</noscript>${late}`,
      ),
      // Without its script it could do nothing.
      'button.html': page(
        '<p id="code">npm start</p><script>document.querySelector("#code").insertAdjacentHTML("beforeend", "<button class=copy><img src=a.jpg width=40 height=30 alt=Copy></button>")</script>',
      ),
      'plain.html': page(image('a.jpg')),
      'a.jpg': await photo(400, 300),
    });
    expect(await named(folder, 'shown-only-by-script')).to.deep.equal(['/script.html']);
  });

  it('tells a main picture that only a style names from one that is preloaded', async () => {
    const hero =
      '<style>.hero{height:500px;background:url(big.jpg) center/cover}</style><div class="hero"></div>';
    const folder = await siteOf({
      'late.html': `<!doctype html><title>x</title>${hero}`,
      'early.html': `<!doctype html><title>x</title><link rel="preload" as="image" href="big.jpg">${hero}`,
      'big.jpg': await ridges(1200, 600, 80),
    });
    expect(await named(folder, 'main-picture-late')).to.deep.equal(['/late.html']);
  });

  it('names what looks wrong: stretched, wider than the screen, thin, without words', async () => {
    const folder = await siteOf({
      'stretched.html': page('<img src="a.jpg" style="width:400px;height:150px" alt="x">'),
      'covered.html': page('<img src="a.jpg" style="width:400px;height:150px;object-fit:cover" alt="x">'),
      'wide.html': page('<img src="w.jpg" style="width:1200px" alt="x">'),
      'zoomed.html': page(
        '<div style="overflow:hidden"><img src="a.jpg" style="width:100%;height:auto;scale:1.1" alt="x"></div>',
      ),
      'dots.html': page(
        '<img src="dots.png" width="200" height="200" style="image-rendering:pixelated" alt="x"><img src="dots.png?smooth" width="200" height="200" alt="x">',
      ),
      'thin.html': page('<img src="w.jpg" style="width:100%" alt="x">'),
      'words.html': page(
        '<img src="a.jpg" width="400" height="300"><img src="a.jpg" width="400" height="300" alt="IMG_1234.jpg"><img src="a.jpg" width="400" height="300" alt="">',
      ),
      'a.jpg': await photo(400, 300),
      'w.jpg': await photo(1200, 150),
      'dots.png': await sharp(await photo(40, 40))
        .png()
        .toBuffer(),
    });
    const run = await auditRun(folder, ...bothScreens);
    const where = (check: string) =>
      findingsOf(run, check).map(({ placement, screens }) => [placement, ...Object.keys(screens)]);
    expect(where('stretched')).to.deep.equal([['/stretched.html#1', 'phone', 'desk']]);
    expect(where('wider-than-screen')).to.deep.equal([['/wide.html#1', 'phone', 'desk']]);
    expect(where('upscaled').filter(([id]) => id?.startsWith('/dots'))).to.deep.equal([
      ['/dots.html#2', 'phone', 'desk'],
    ]);
    // 400 px wide on the phone: 50 px high.
    expect(where('thin-on-narrow-screens')).to.deep.equal([['/thin.html#1', 'phone']]);
    expect(where('no-text-alternative').map(([id]) => id)).to.deep.equal(['/words.html#1', '/words.html#2']);
    const crop = run.fixes.find(({ checks }) => checks.includes('thin-on-narrow-screens'));
    // Half as wide again as high, at the full height of 150 px.
    expect(crop?.notes[0]).to.match(/^Cut 225 × 150 px at \d+, 0 out of \/w\.jpg/);
  });

  it('counts swarms of tiny files and weighs one sheet of them', async () => {
    const dot = (shade: number) =>
      sharp({ create: { width: 20, height: 20, channels: 3, background: { r: shade, g: 90, b: 40 } } })
        .png()
        .toBuffer();
    const dots = Object.fromEntries(
      await Promise.all(
        Array.from({ length: 12 }, async (_, index) => [`dot-${index}.png`, await dot(index * 20)] as const),
      ),
    );
    const show = (count: number) =>
      page(
        Object.keys(dots)
          .slice(0, count)
          .map((name) => `<img src="${name}" width="20" height="20" alt="">`)
          .join(''),
      );
    const folder = await siteOf({ 'many.html': show(12), 'few.html': show(9), ...dots });
    const run = await auditRun(folder, ...oneScreen);
    const [swarm, ...more] = findingsOf(run, 'many-tiny-files');
    expect(more).to.deep.equal([]);
    expect(swarm?.placement).to.equal('/many.html#1');
    expect(swarm?.screens['desk']).to.include({
      files: 12,
      bytes: Object.values(dots).reduce((sum, { length }) => sum + length, 0),
    });
    // About as wide as high: √(12 · 21²) = 73 px hold three in a row, a px between; so 62 × 83 px.
    expect(run.fixes.find(({ checks }) => checks.includes('many-tiny-files'))?.notes[0]).to.match(
      /^One PNG of 62 × 83 px takes/,
    );
  });

  it('visits paths that only the script of a single-page site knows', async () => {
    const script = `setTimeout(() => { document.body.innerHTML = '<h1>' + location.pathname + '</h1><img src="/a.jpg" width="400" height="300" alt="x">' }, 50)`;
    const folder = await siteOf({
      'index.html': page(`<script>${script}</script>`),
      'visits.csv': 'page,visits\n/,1\n/huts/skarn,3\n',
      'a.jpg': await photo(400, 300),
    });
    const run = await auditRun(
      folder,
      ...oneScreen,
      '--fallback',
      'index.html',
      '--page',
      '/huts/skarn',
      '--page',
      '/',
      '--traffic',
      join(folder, 'visits.csv'),
    );
    expect(run.pages.map(({ weight }) => weight)).to.deep.equal([0.25, 0.75]);
    expect(run.strangeTraffic).to.deep.equal([]);
    expect(run.pages.map(({ path, file }) => [path, file])).to.deep.equal([
      ['/', 'index.html'],
      ['/huts/skarn', 'index.html'],
    ]);
    expect(run.placements.map(({ page: path, downloads }) => [path, downloads['desk']?.url])).to.deep.equal([
      ['/', '/a.jpg'],
      ['/huts/skarn', '/a.jpg'],
    ]);
    const { code, err } = await yukkuri(['audit', folder, '--fallback', 'app.html']);
    expect(code).to.equal(2);
    expect(err).to.match(/The fallback "app\.html" is not in the folder/);
  });

  it('gives the same run twice, byte for byte but for its meta', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<img src="a.jpg" style="width:100%" alt="x"><p>Below</p><img src="b.jpg" loading="lazy" alt="x">',
      ),
      'a.jpg': await photo(800, 600),
      'b.jpg': await photo(700, 500),
    });
    const [first, second] = [await auditRun(folder), await auditRun(folder, '--fresh')];
    expect(second.meta.looks).to.deep.equal({
      visit: { made: 4, remembered: 0 },
      sweep: { made: 1, remembered: 0 },
    });
    const { meta } = second;
    expect(JSON.stringify(second)).to.equal(JSON.stringify({ ...first, meta }));
  });
});
