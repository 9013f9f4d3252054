import { expect } from 'chai';
import type { Run } from '../../src/core/run/index.js';
import { auditRun, page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';
import { sharedAudit } from '../support/shared-audit.js';

const desk = ['--screen', 'desk=1000x800@1', '--encode', 'none'];

const shownOf = (run: Run, url: string) =>
  run.placements.find(({ candidates }) => candidates.includes(url))?.shown['desk'];
const downloadsOf = (run: Run) => run.pages.find(({ path }) => path === '/')?.visits[0]?.downloads ?? [];

describe('a visit', function () {
  this.timeout(120_000);
  after(removeSites);
  const shared = sharedAudit(...desk);

  const lateRequest = shared(async () => ({
    'index.html': page(
      `<img src="a.jpg" width="300" height="200" alt="A hut"><script>
        document.images[0].onload = () => {
          let frames = 0;
          const next = () => { if (++frames < 4) return requestAnimationFrame(next); const image = new Image(300, 200); image.alt = 'Late'; image.src = 'b.jpg'; document.body.append(image); };
          next();
        }</script>`,
    ),
    'a.jpg': await photo(300, 200),
    'b.jpg': await photo(301, 200),
  }));

  it('waits for what a script asks for some frames after an image came', async () => {
    const run = await lateRequest();
    expect(downloadsOf(run).find(({ url }) => url === '/b.jpg')?.began).to.equal('first-view');
  });

  const hidden = shared(async () => ({
    'index.html': page(
      `<img src="a.jpg" width="300" height="200" alt="A"><img src="b.jpg" width="300" height="200" alt="B" style="opacity:0"><div style="opacity:0"><img src="c.jpg" width="300" height="200" alt="C"></div><img src="d.jpg" width="300" height="200" alt="D" style="visibility:hidden">`,
    ),
    'a.jpg': await photo(300, 200),
    'b.jpg': await photo(301, 200),
    'c.jpg': await photo(302, 200),
    'd.jpg': await photo(303, 200),
  }));

  it('tells what styles hide in its place', async () => {
    const run = await hidden();
    const concealed = ['/a.jpg', '/b.jpg', '/c.jpg', '/d.jpg'].map((url) => shownOf(run, url)?.concealed);
    expect(concealed).to.deep.equal([false, true, true, true]);
  });

  const vectors = shared(async () => ({
    'index.html': page(
      '<img src="plain.svg" width="90" height="60" alt="A sign"><img src="none.svg" width="90" height="60" alt="None">',
    ),
    'plain.svg': '<svg xmlns="http://www.w3.org/2000/svg"><rect width="9" height="9"/></svg>',
  }));

  it('sees vector pictures without a size of their own as drawn', async () => {
    const run = await vectors();
    expect(shownOf(run, '/plain.svg')?.state).to.equal('drawn');
    expect(shownOf(run, '/none.svg')?.state).to.equal('broken');
  });

  const scripted = shared(async () => ({
    'index.html': `<!doctype html>\n<title>x</title>\n<p>\n  <img src="a.jpg" width="300" height="200" alt="A">\n<img src="b.jpg" width="300" height="200" alt="B">\n<script>document.querySelector('p').prepend(Object.assign(new Image(), { src: 'a.jpg', alt: 'Made' }))</script>`,
    'a.jpg': await photo(300, 200),
    'b.jpg': await photo(301, 200),
  }));

  it('knows where each element stands in its file, whatever scripts put around it', async () => {
    const run = await scripted();
    expect(
      run.placements.map(({ alt, source }) => [alt, source && [source.file, source.line, source.column]]),
    ).to.deep.equal([
      ['A', ['index.html', 4, 3]],
      ['B', ['index.html', 5, 1]],
      ['Made', null],
    ]);
  });

  it('closes windows that the page opens', async () => {
    const folder = await siteOf({
      'index.html': page(
        `<p>x</p><script>const other = open('/second.html');
        const look = setInterval(() => { if (!other?.closed) return; clearInterval(look); const image = new Image(300, 200); image.src = 'closed.jpg'; image.alt = 'x'; document.body.append(image); }, 20);</script>`,
      ),
      'second.html': page('<p>second</p>'),
      'closed.jpg': await photo(300, 200),
    });
    const run = await auditRun(folder, '--page', '/', ...desk);
    expect(downloadsOf(run).map(({ url }) => url)).to.deep.equal(['/closed.jpg']);
  });

  it('of no page that could be seen ends with 3', async () => {
    const folder = await siteOf({ 'index.html': page('<script>for (;;) {}</script>') });
    const { code, out } = await yukkuri(['audit', folder, ...desk, '--page-limit', '3']);
    expect(code).to.equal(3);
    expect(out).to.match(/did not settle within 3 s/);
  });
});
