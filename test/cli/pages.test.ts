import { expect } from 'chai';
import { auditRun, findingsOf, page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';
import { checksOn, visitOf } from '../support/run-of-page.js';
import { sharedAudit } from '../support/shared-audit.js';

const oneScreen = ['--screen', 'desk=1000x800@1', '--encode', 'none'];
const image = (src: string, more = '') => `<img src="${src}" width="400" height="300" alt="A hut" ${more}>`;
const spacer = (height: number) => `<div style="height:${height}px"></div>`;

describe('pages of every kind', function () {
  this.timeout(240_000);
  after(removeSites);
  const shared = sharedAudit(...oneScreen);

  it('are looked into through frames of their own site, and what cannot be judged is told', async () => {
    const [heavy, other, third] = [await photo(1600, 1200), await photo(1601, 1200), await photo(1602, 1200)];
    const folder = await siteOf({
      'srcdoc.html': page(
        `${spacer(100)}<iframe width="420" height="320" style="margin-left:50px;border:0" srcdoc="<body style='margin:0'><img src='/heavy.jpg' width='400' height='300' alt='A hut'>"></iframe>`,
      ),
      'outer.html': page('<iframe src="inner.html" width="500" height="400" style="border:0"></iframe>'),
      'inner.html': page(
        '<img src="other.jpg" srcset="small.jpg 400w, other.jpg 1601w" sizes="100vw" alt="A hut" style="width:100%">',
      ),
      'canvas.html': page(
        '<canvas width="400" height="300"></canvas><script>const i = new Image(); i.onload = () => document.querySelector("canvas").getContext("2d").drawImage(i, 0, 0, 400, 300); i.src = "third.jpg"</script>',
      ),
      'heavy.jpg': heavy,
      'other.jpg': other,
      'small.jpg': await photo(400, 300),
      'third.jpg': third,
    });
    const run = await auditRun(folder, ...oneScreen);
    const inFrame = run.placements.find(({ page: path }) => path === '/srcdoc.html');
    expect(inFrame?.selector).to.equal('body > iframe >>> body > img');
    expect(inFrame?.slots['desk']).to.deep.equal({ x: 50, y: 100, width: 400, height: 300 });
    expect(inFrame?.frames).to.deep.equal({ desk: { width: 420, height: 320 } });
    expect(checksOn(run, '/srcdoc.html')).to.include('more-pixels-than-needed');
    // A frame 500 px wide asks for 500 px, whatever the window is.
    const framed = run.placements.find(({ page: path }) => path === '/outer.html');
    expect(framed?.picks['desk']).to.deep.equal({ predicted: '/other.jpg', observed: '/other.jpg' });
    expect(framed?.source?.file).to.equal('inner.html');
    expect(run.picks.disagreements).to.deep.equal([]);
    expect(run.notJudged).to.deep.equal([
      { url: '/third.jpg', pages: ['/canvas.html'], expected: Math.round(third.length / 4) },
    ]);
    const { expected, expectedAfter, notJudged } = run.totals.average;
    const saved = run.fixes.reduce((sum, { saves }) => sum + saves.expected, 0);
    expect(expected).to.be.closeTo(saved + expectedAfter + notJudged, 4);
    expect(notJudged).to.equal(Math.round(third.length / 4));
  });

  const lazy = shared(async () => ({
    'index.html': page(
      [2000, 900, 900, 900]
        .map((height, index) => `${spacer(height)}${image(`${index}.jpg`, 'loading="lazy"')}`)
        .join(''),
    ),
    ...Object.fromEntries(
      await Promise.all([0, 1, 2, 3].map(async (index) => [`${index}.jpg`, await photo(400 + index, 300)])),
    ),
  }));

  it('are measured with the distance at which this browser loads lazy images', async () => {
    const run = await lazy();
    const { lazyDistance } = run.conditions;
    for (const { slots, downloads } of run.placements) {
      const near = (slots['desk']?.y ?? 0) - 800 < lazyDistance;
      expect(downloads['desk']?.began).to.equal(near ? 'first-view' : 'scrolled');
    }
    expect(new Set(run.placements.map(({ downloads }) => downloads['desk']?.began)).size).to.equal(2);
  });

  it('keep their elements apart whatever scripts insert, over time and on each screen', async () => {
    const folder = await siteOf({
      'index.html': page(
        `<div>${image('a.jpg')}${image('b.jpg')}</div><script>
          if (innerWidth > 600) {
            const extra = new Image(1000, 500); extra.src = 'wide.jpg'; extra.alt = 'Wide';
            document.querySelector('div').prepend(extra);
          }
          addEventListener('load', () => {
            const late = new Image(50, 40); late.src = 'late.jpg'; late.alt = 'Late';
            document.querySelector('div').prepend(late);
          });
        </script>`,
      ),
      'a.jpg': await photo(400, 300),
      'b.jpg': await photo(401, 300),
      'wide.jpg': await photo(1000, 500),
      'late.jpg': await photo(50, 40),
    });
    const run = await auditRun(folder, '--screen', 'phone=400x800@1,share=0.5', ...oneScreen);
    const shown = run.placements.map(({ slots, downloads }) => [
      downloads['phone']?.url ?? null,
      downloads['desk']?.url ?? null,
      slots['desk']?.width ?? null,
    ]);
    expect(shown).to.have.deep.members([
      ['/a.jpg', '/a.jpg', 400],
      ['/b.jpg', '/b.jpg', 400],
      [null, '/wide.jpg', 1000],
      ['/late.jpg', '/late.jpg', 50],
    ]);
    expect(checksOn(run, '/')).not.to.include('stretched');
  });

  it('settle beside sockets, pollers, workers and long answers', async () => {
    const folder = await siteOf({
      'poller.html': page(
        `${image('a.jpg')}<script>setInterval(() => fetch('/a.txt?' + Math.random()), 60)</script>`,
      ),
      'worker.html': page(`${image('a.jpg')}<script>new SharedWorker('worker.js').port.start()</script>`),
      'worker.js': 'onconnect = () => {}',
      'a.txt': 'news',
      'a.jpg': await photo(400, 300),
    });
    const run = await auditRun(folder, ...oneScreen, '--page-limit', '8');
    expect(run.incomplete).to.deep.equal([]);
    for (const { downloads } of run.placements) expect(downloads['desk']?.url).to.equal('/a.jpg');
  });

  it('count in no average when they only lead elsewhere', async () => {
    const heavy = await photo(1200, 900);
    const stub = '<!doctype html><title>Moved</title><meta http-equiv="refresh" content="0; url=index.html">';
    const folder = await siteOf({
      'index.html': page(image('a.jpg')),
      'one.html': stub,
      'two.html': '<!doctype html><title>Moved</title><script>location.replace("index.html")</script>',
      'a.jpg': heavy,
    });
    const run = await auditRun(folder, ...oneScreen);
    expect(run.redirected).to.deep.equal([
      { page: '/one.html', to: '/index.html' },
      { page: '/two.html', to: '/index.html' },
    ]);
    expect(run.pages.map(({ path, weight }) => [path, weight])).to.deep.equal([
      ['/', 1],
      ['/one.html', 0],
      ['/two.html', 0],
    ]);
    expect(run.totals.average.expected).to.equal(heavy.length);
    expect(run.incomplete).to.deep.equal([]);
    const { out } = await yukkuri(['audit', folder, ...oneScreen]);
    expect(out).to.match(/2 pages only lead to another and count nowhere: \/one\.html → \/index\.html/);
  });

  it('are seen where they are when they lead elsewhere later, load themselves anew, or give a file', async () => {
    const led = (head: string) =>
      `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>x</title>${head}${image('a.jpg')}`;
    const stays: Record<string, string> = {
      'address.html': led('<script>history.pushState(0, "", "/elsewhere")</script>'),
      'again.html': led(
        '<script>if (!sessionStorage.seen) { sessionStorage.seen = 1; location.reload() }</script>',
      ),
      'endless.html': led('<script>addEventListener("load", () => location.reload())</script>'),
      'file.html': led('<script>addEventListener("load", () => (location.href = "all.zip"))</script>'),
      'fragment.html': led('<script>location.hash = "top"</script>'),
      'mail.html': led(
        '<script>addEventListener("load", () => (location.href = "mailto:a@example.org"))</script>',
      ),
      'later.html': led('<meta http-equiv="refresh" content="5; url=index.html">'),
      'query.html': led('<script>if (!location.search) location.replace("?lang=en")</script>'),
      'slide.html': led('<script>setTimeout(() => location.assign("index.html"), 4000)</script>'),
    };
    const folder = await siteOf({
      'index.html': page(image('a.jpg')),
      'other-host.html': led('<script>location.replace("http://other.invalid/")</script>'),
      'soon.html': led('<script>setTimeout(() => location.replace("index.html"), 50)</script>'),
      'a.jpg': await photo(400, 300),
      'all.zip': Buffer.from('PK'),
      ...stays,
    });
    const run = await auditRun(folder, ...oneScreen);
    expect(run.redirected).to.deep.equal([
      { page: '/other-host.html', to: 'http://other.invalid/' },
      { page: '/soon.html', to: '/index.html' },
    ]);
    expect(run.incomplete).to.deep.equal([]);
    for (const name of Object.keys(stays))
      expect([
        name,
        visitOf(run, `/${name}`)?.state,
        visitOf(run, `/${name}`)?.downloads.length,
      ]).to.deep.equal([name, 'complete', 1]);
  });

  const transfers = shared(async () => {
    const [a, next] = [await photo(400, 300), await photo(800, 600)];
    return {
      'again.html': page(
        `${image('a.jpg')}<script>addEventListener('load', () => setTimeout(() => { const i = new Image(); i.src = 'a.jpg'; i.alt = 'Again'; document.body.append(i); }, 1200))</script>`,
      ),
      'fragment.html': page(image('a.jpg#top')),
      'prefetch.html': `<!doctype html><title>x</title><link rel="prefetch" href="next.jpg">${image('a.jpg')}`,
      'blob.html': page(
        `<img id="made" width="40" height="30" alt="Made"><script>fetch('a.jpg').then((r) => r.blob()).then((b) => { made.src = URL.createObjectURL(b) })</script>`,
      ),
      'a.jpg': a,
      'next.jpg': next,
    };
  });

  it('count every transfer once, where it began and whether it ended', async () => {
    const [a, next] = [await photo(400, 300), await photo(800, 600)];
    const run = await transfers();
    const downloads = (path: string) =>
      visitOf(run, path)?.downloads.map(({ url, bytes, began }) => [url, bytes, began]);
    expect(downloads('/again.html')).to.deep.equal([['/a.jpg', a.length, 'first-view']]);
    expect(downloads('/fragment.html')).to.deep.equal([['/a.jpg', a.length, 'first-view']]);
    expect(downloads('/prefetch.html')).to.deep.equal([
      ['/a.jpg', a.length, 'first-view'],
      ['/next.jpg', next.length, 'by-itself'],
    ]);
    expect(visitOf(run, '/prefetch.html')?.firstView.bytes).to.equal(a.length);
    const blob = run.placements.find(({ page: path }) => path === '/blob.html');
    expect(blob?.picks['desk']?.observed).to.equal('blob:');
    expect(JSON.stringify({ ...run, meta: null })).not.to.match(/127\.0\.0\.1/);
  });

  const scrolling = shared(async () => ({
    'main.html': page(
      `<main>${image('a.jpg')}${spacer(5000)}${image('b.jpg', 'loading="lazy"')}${spacer(200)}</main>`,
      'html,body{height:100%}main{height:100vh;overflow:auto}',
    ),
    'list.html': page(
      `<div style="height:300px;overflow-y:auto">${image('a.jpg')}${spacer(5000)}${image('b.jpg', 'loading="lazy"')}</div>`,
    ),
    'a.jpg': await photo(400, 300),
    'b.jpg': await photo(401, 300),
  }));

  it('are scrolled by what scrolls: a part of the page, a list inside it', async () => {
    const run = await scrolling();
    expect(visitOf(run, '/main.html')?.documentHeight).to.equal(5800);
    const [, far] = run.placements.filter(({ page: path }) => path === '/main.html');
    expect(far?.slots['desk']?.y).to.equal(5300);
    expect(far?.shown['desk']).to.include({ state: 'drawn', seen: true });
    expect(far?.downloads['desk']?.began).to.equal('scrolled');
    const [, inside] = run.placements.filter(({ page: path }) => path === '/list.html');
    expect(inside?.shown['desk']?.state).to.equal('drawn');
  });

  const built = shared(async () => ({
    'index.html': page(
      `<main></main><script>setTimeout(() => fetch('list.json').then((r) => r.json()).then((list) => { document.querySelector('main').innerHTML = list.map((n) => '<img srcset="' + n + '.jpg 400w, ' + n + '-large.jpg 1200w" src="' + n + '.jpg" sizes="100vw" width="400" height="300" alt="A hut">').join('') }), 1500)</script>`,
      'main{display:grid;grid-template-columns:1fr 1fr 1fr;gap:24px;padding:24px}main img{width:100%;height:auto}',
    ),
    'list.json': '["a"]',
    'a.jpg': await photo(400, 300),
    'a-large.jpg': await photo(1200, 900),
  }));

  it('are swept once what scripts build is there', async () => {
    const run = await built();
    expect(run.incomplete).to.deep.equal([]);
    expect(run.sweeps.map(({ write }) => write)).to.deep.equal(['calc((100vw - 96px) / 3)']);
    expect(checksOn(run, '/')).to.include('sizes-overstates');
  });

  it('whose columns are empty until their images come are told so: their tags say already what could be pasted', async () => {
    const row = (index: number) =>
      `<tr><td><img src="${index}.jpg" width="900" height="900" loading="lazy" alt="A hut"></td></tr>`;
    const folder = await siteOf({
      'index.html': page(
        `<table>${[0, 1, 2, 3, 4, 5, 6].map(row).join('')}</table>`,
        'table img{width:100%;height:auto}',
      ),
      ...Object.fromEntries(
        await Promise.all(
          [0, 1, 2, 3, 4, 5, 6].map(async (index) => [`${index}.jpg`, await photo(900 + index, 900 + index)]),
        ),
      ),
    });
    const run = await auditRun(folder, ...oneScreen);
    const fixes = run.fixes.filter(({ checks }) => checks.includes('lazy-without-room'));
    expect(fixes.map(({ kind }) => kind)).to.deep.equal(['hand']);
    expect(fixes[0]?.notes.join()).to.match(/states its dimensions/);
  });

  it('need no more px than --sharpness asks for, and less than three quarters of that is blur', async () => {
    const folder = await siteOf({
      'index.html': page(
        `${image('single.jpg')}<img srcset="a.jpg 700w, b.jpg 1300w" sizes="400px" src="a.jpg" width="400" height="300" alt="A hut">`,
      ),
      'single.jpg': await photo(700, 525),
      'a.jpg': await photo(700, 525),
      'b.jpg': await photo(1300, 975),
    });
    const dense = ['--screen', 'phone=400x800@3', '--encode', 'none'];
    // 3 × 400 = 1,200 px are needed: 700 are blur, 1,300 are a little too many.
    const whole = await auditRun(folder, ...dense);
    expect(findingsOf(whole, 'upscaled')[0]?.screens['phone']).to.include({
      wantedWidth: 1200,
      fileWidth: 700,
    });
    expect(whole.conditions.sharpness).to.equal(null);
    // 2 × 400 = 800 px are needed: 700 are sharp enough.
    const capped = await auditRun(folder, ...dense, '--sharpness', '2');
    expect(findingsOf(capped, 'upscaled')).to.deep.equal([]);
    expect(capped.conditions.sharpness).to.equal(2);
    const few = await siteOf({
      'index.html': page(
        '<img srcset="a.jpg 500w, b.jpg 590w" sizes="400px" src="a.jpg" width="400" height="300" alt="A hut">',
      ),
      'a.jpg': await photo(500, 375),
      'b.jpg': await photo(590, 443),
    });
    const short = await auditRun(few, ...dense, '--sharpness', '2');
    expect(findingsOf(short, 'ladder-too-short')[0]?.screens['phone']).to.include({
      largestWidth: 590,
      wantedWidth: 800,
    });
  });

  it('tell what saves bytes apart from what only is felt, what is felt most first', async () => {
    const folder = await siteOf({
      'index.html': page(
        `<img src="a.jpg" alt="A hut" style="width:400px"><p style="margin:0;height:400px">Text</p>${image('none.jpg')}<img src="a.jpg" width="400" height="300">`,
      ),
      'a.jpg': await photo(1200, 900),
    });
    const { out } = await yukkuri(['audit', folder, ...oneScreen, '--limit', '1,2']);
    expect(out).to.match(
      /1 page jumps when its images arrive \(layout shift\):\n {2}- \/ by 0\.\d+ on desk: fix \d+ \(/,
    );
    const [saving = '', felt = ''] = out.split('Fixes that save no bytes, what visitors feel most first');
    expect(saving).to.match(/1\. +Offer smaller widths/);
    expect(felt).to.match(/Repair the address or the file/);
    expect(felt.indexOf('Repair the address')).to.be.below(felt.indexOf('Say what the picture shows') >>> 0);
    expect((await yukkuri(['audit', folder, ...oneScreen, '--limit', '1,2,3'])).code).to.equal(2);
  });

  const misleading = shared(async () => ({
    'details.html': page(
      `<details><summary>More</summary>${'<p style="height:200px;margin:0">Text</p>'.repeat(5)}</details>${image('a.jpg')}`,
    ),
    'hover.html': page(
      `<div style="position:relative">${image('a.jpg')}<img src="b.jpg" width="400" height="300" alt="The other side" style="position:absolute;top:0;opacity:0"></div>`,
    ),
    'slides.html': page(
      `<div style="width:400px;overflow:hidden;display:flex">${image('a.jpg')}${image('b.jpg', 'loading="lazy" style="flex:none"')}</div>`,
    ),
    'hidden.html': page(
      `${image('none.jpg', `onerror="this.onerror = null; this.src = 'a.jpg'"`)}${image('gone.jpg', 'onerror="this.remove()"')}`,
    ),
    'small.html': page(
      `<img src="tiny.jpg" data-src="a.jpg" width="400" height="300" alt="A hut"><script>for (const i of document.images) i.src = i.dataset.src</script>`,
    ),
    'a.jpg': await photo(400, 300),
    'b.jpg': await photo(401, 300),
    'tiny.jpg': await photo(40, 30),
  }));

  it('are not misread: closed details, hover swaps, clipped slides, hidden failures, small first pictures', async () => {
    const run = await misleading();
    expect(visitOf(run, '/details.html')?.shift.score).to.equal(0);
    expect(checksOn(run, '/hover.html')).not.to.include('fetched-never-shown');
    expect(checksOn(run, '/slides.html')).not.to.include.members(['lazy-in-first-view']);
    expect(checksOn(run, '/slides.html').filter((check) => /first-view|blank/.test(check))).to.deep.equal([
      'blank-while-waiting',
    ]);
    const missing = findingsOf(run, 'does-not-load').map(({ screens }) => screens['desk']?.['url']);
    expect(missing).to.have.members(['/none.jpg', '/gone.jpg']);
    expect(checksOn(run, '/small.html')).not.to.include('shown-only-by-script');
  });
});
