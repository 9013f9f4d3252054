import { expect } from 'chai';
import { auditRun, findingsOf, page, photo, removeSites, siteOf } from '../support/program.js';

const phone = ['--screen', 'phone=400x800@2,touch', '--encode', 'none'];

describe('what waits until a page is scrolled', function () {
  this.timeout(240_000);
  after(removeSites);

  it('is told by the window of a page that is wider than a touch screen, which is as high as if all were shown small', async () => {
    const folder = await siteOf({
      // 3000 px below a window of 1200 × 2400 px lies 5400; 3000 px below the screen 3800.
      'index.html': page(
        '<meta name="viewport" content="width=device-width, initial-scale=1"><div class="wide"></div><img class="near" src="near.jpg" width="200" height="100" alt="">' +
          '<img class="far" src="far.jpg" width="200" height="100" alt="">' +
          '<img class="lazy" src="lazy.jpg" width="200" height="100" alt="" loading="lazy"><div class="end"></div>',
        'body{margin:0;position:relative;height:9000px}img{position:absolute;left:0}.wide{width:1200px;height:20px}' +
          '.near{top:5000px}.far{top:6000px}.lazy{top:6900px}',
      ),
      'near.jpg': await photo(200, 100),
      'far.jpg': await photo(204, 102),
      'lazy.jpg': await photo(208, 104),
    });
    const run = await auditRun(folder, ...phone);
    expect(run.conditions.lazyDistance).to.equal(3000);
    const at = (name: string) => run.placements.find(({ candidates }) => candidates.includes(`/${name}.jpg`));
    expect(at('near')?.windows).to.deep.equal({ phone: { height: 2400, seen: 800 } });
    const found = findingsOf(run, 'eager-below-fold').map(({ placement }) => placement);
    expect(found).to.deep.equal([at('far')?.id]);
    // The window moves by what is seen at once, 800 px, and only once the visitor has passed the 1600 px of it that lie below.
    expect(at('lazy')?.downloads['phone']).to.include({ began: 'scrolled', scrollDepth: 1600 + 2 * 800 });
  });

  it('is counted in px of the screen where a page without a viewport is shown small', async () => {
    const folder = await siteOf({
      'index.html':
        '<!doctype html><html lang="en"><title>Small</title><style>body{margin:0;height:12000px;position:relative}' +
        'img{position:absolute;top:6000px;left:0}</style><img src="a.jpg" width="200" height="100" alt="" loading="lazy">',
      'a.jpg': await photo(200, 100),
    });
    const run = await auditRun(folder, ...phone);
    // Laid out on 980 × 1960 px: 6000 − 3000 px are below the window until it was moved once by its height, 800 px of the screen.
    expect(run.placements[0]?.viewports).to.deep.equal({ phone: { width: 980, height: 1960 } });
    expect(run.placements[0]?.downloads['phone']).to.include({ began: 'scrolled', scrollDepth: 800 });
  });

  it('is waited for where a script completes an image a moment after it came into view', async () => {
    const names = ['a', 'b', 'c', 'd'];
    const folder = await siteOf({
      'index.html': page(
        names.map((name) => `<div></div><p><img data-src="${name}.jpg" alt="A hut"></p>`).join('') +
          `<script>const seen = new IntersectionObserver((entries) => {
            for (const { isIntersecting, target } of entries)
              if (isIntersecting && !target.src) setTimeout(() => (target.src = target.dataset.src), 300);
          });
          for (const image of document.images) seen.observe(image);</script>`,
        'div{height:1500px}',
      ),
      ...Object.fromEntries(
        await Promise.all(names.map(async (name, index) => [`${name}.jpg`, await photo(200 + index, 100)])),
      ),
    });
    const run = await auditRun(folder, ...phone);
    const fetched = run.pages[0]?.visits.flatMap(({ downloads }) => downloads.map(({ url }) => url));
    expect(fetched?.sort()).to.deep.equal(names.map((name) => `/${name}.jpg`));
  });

  it('is waited for too where something stands in for it, and where it is near', async () => {
    const names = ['a', 'b', 'c'];
    const images = names
      .map(
        (name) =>
          `<div></div><img src="small.jpg" data-src="${name}.jpg" width="200" height="100" alt="A hut">`,
      )
      .join('');
    // Those that are near are loaded once nothing else is.
    const script = `const near = new IntersectionObserver((entries) => {
        for (const { isIntersecting, target } of entries)
          if (isIntersecting) setTimeout(() => (target.src = target.dataset.src), 300);
      }, { rootMargin: '300px' });
      for (const image of document.querySelectorAll('[data-src]')) near.observe(image);`;
    const folder = await siteOf({
      'index.html': page(`${images}<div></div><script>${script}</script>`, 'div{height:1000px}'),
      'small.jpg': await photo(40, 20),
      ...Object.fromEntries(
        await Promise.all(names.map(async (name, index) => [`${name}.jpg`, await photo(400 + index, 200)])),
      ),
    });
    const run = await auditRun(folder, ...phone);
    const fetched = run.pages[0]?.visits[0]?.downloads.filter(({ url }) => url !== '/small.jpg');
    // Windows of 800 px: the first image, at 1000 px, is near at once, the second, at 2100 px, in view at 1600, the third, at 3200 px, near at 2400.
    expect(fetched?.map(({ url, scrollDepth }) => [url, scrollDepth])).to.deep.equal([
      ['/a.jpg', 0],
      ['/b.jpg', 1600],
      ['/c.jpg', 2400],
    ]);
  });

  it('may be the layout itself: a part that has its own height only once it is near', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<img src="a.jpg" width="200" height="100" alt=""><div class="far"></div><section><div class="in"></div></section>',
        '.far{height:5900px}section{content-visibility:auto;contain-intrinsic-size:auto 50px}.in{height:700px}',
      ),
      'a.jpg': await photo(200, 100),
    });
    const run = await auditRun(folder, ...phone);
    // 100 + 5900 + 700 px, of which the last are 50 until they were near once.
    expect(run.pages[0]?.visits.map(({ documentHeight }) => documentHeight)).to.deep.equal([6700]);
  });

  it('is told by where it lies before images without room have come', async () => {
    const folder = await siteOf({
      // The picture of the video takes 500 px once it is there. What lies 3300 px below the fold of 800 lies 2800 below it until then.
      'index.html': page(
        '<video poster="poster.jpg"></video><div class="a"></div><img src="near.jpg" width="900" height="800" alt=""><div class="b"></div>' +
          '<img src="far.jpg" width="904" height="804" alt="">',
        'body{margin:0}video{display:block}.a{height:3600px}.b{height:500px}',
      ),
      'poster.jpg': await photo(900, 500),
      'near.jpg': await photo(900, 800),
      'far.jpg': await photo(904, 804),
    });
    const run = await auditRun(folder, '--screen', 'desk=1000x800@1', '--encode', 'none');
    const boxes = run.placements.map(({ shown }) => {
      const { whileWaiting, beforeScroll } = shown['desk'] ?? {};
      return [whileWaiting?.y, whileWaiting?.height, beforeScroll?.y, beforeScroll?.height];
    });
    expect(boxes).to.deep.equal([
      [0, 0, 0, 500],
      [3600, 800, 4100, 800],
      [4900, 804, 5400, 804],
    ]);
    expect(findingsOf(run, 'eager-below-fold').map(({ placement }) => placement)).to.deep.equal([
      run.placements[2]?.id,
    ]);
  });
});
