import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import {
  auditRun,
  findingsOf,
  page,
  photo,
  removeSites,
  siteOf,
  yukkuri,
  yukkuriProcess,
} from '../support/program.js';
import { sharedAudit } from '../support/shared-audit.js';

describe('yukkuri audit', function () {
  this.timeout(120_000);
  after(removeSites);
  const shared = sharedAudit('--screen', 'only=800x600@1', '--encode', 'none');

  it('records slots, picks, downloads and where an element stands', async () => {
    const small = await photo(400, 300);
    const large = await photo(1600, 1200);
    const folder = await siteOf({
      'index.html': page(
        '\n<p>Text</p>\n  <img srcset="a%20b.jpg 400w, large.jpg 1600w" sizes="50vw" style="width:50vw;height:auto" width="4" height="3" alt="">',
        'p{margin:0;height:100px}',
      ),
      'a b.jpg': small,
      'large.jpg': large,
    });
    const run = await auditRun(folder, '--screen', 'one=800x600@1', '--screen', 'two=800x600@2');
    const [placement] = run.placements;
    expect(placement?.source).to.deep.equal({ file: 'index.html', line: 3, column: 3 });
    expect(placement?.slots['one']).to.deep.equal({ x: 0, y: 100, width: 400, height: 300 });
    expect(placement?.picks['one']).to.deep.equal({ predicted: '/a%20b.jpg', observed: '/a%20b.jpg' });
    expect(placement?.picks['two']?.observed).to.equal('/large.jpg');
    expect(placement?.downloads['one']).to.include({
      url: '/a%20b.jpg',
      bytes: small.length,
      began: 'first-view',
    });
    expect(placement?.downloads['two']).to.include({ url: '/large.jpg', bytes: large.length });
    expect(run.pages[0]?.visits[0]?.whole).to.deep.equal({ downloads: 1, bytes: small.length });
    expect(run.screens.map(({ share }) => share)).to.deep.equal([0.5, 0.5]);
  });

  it('sees a page whole beside an address that is none, a fragment, and a sound that never ends', async () => {
    const small = await photo(300, 200);
    const folder = await siteOf({
      'index.html': page(
        '<img src="http://[x" alt="broken" width="10" height="10"><img src="small.jpg#part" alt="small" width="300" height="200">' +
          '<audio src="song.wav" preload="auto"></audio><img src="late.jpg" alt="late" width="300" height="200">',
      ),
      'small.jpg': small,
      'late.jpg': await photo(310, 210),
      'song.wav': silence(600),
    });
    const run = await auditRun(folder, '--screen', 'only=1000x800@1', '--encode', 'none');
    expect(run.incomplete).to.deep.equal([]);
    const downloads = run.placements.flatMap(({ downloads: { only } }) => (only ? [only] : []));
    expect(downloads.map(({ url }) => url).sort()).to.deep.equal(['/late.jpg', '/small.jpg']);
    expect(downloads.find(({ url }) => url === '/small.jpg')?.bytes).to.equal(small.length);
    // An address that is none cannot be loaded, and is said not to be.
    expect(findingsOf(run, 'does-not-load')).to.have.length(1);
  });

  it('measures what a smaller width saves by encoding the picture', async () => {
    const original = await photo(1000, 750, 92);
    const folder = await siteOf({
      'index.html': page(
        '<img src="big.jpg" width="1000" height="750" style="width:250px;height:auto" alt="">',
      ),
      'big.jpg': original,
    });
    const run = await auditRun(folder, '--screen', 'only=1000x800@1', '--formats', 'none');
    const [finding] = findingsOf(run, 'more-pixels-than-needed');
    const encoded = await sharp(original)
      // 250 px of 4 : 3 would be 187.5 px high; 252 × 189 px have that shape.
      .resize({ width: 252 })
      .jpeg({ quality: 92, progressive: true })
      .toBuffer();
    expect(finding?.screens['only']).to.include({
      fileWidth: 1000,
      neededWidth: 250,
      bytes: original.length,
    });
    expect(finding?.screens['only']?.saves).to.be.closeTo(
      original.length - encoded.length,
      encoded.length * 0.02,
    );
    const [fix] = run.fixes;
    const step = fix?.steps.find(({ kind }) => kind === 'fewer-pixels');
    expect(step?.expected).to.equal(finding?.screens['only']?.saves);
    // The same fix encodes the file lighter: what both save together is what it says.
    expect(fix?.saves.expected).to.equal(fix?.steps.reduce((sum, { expected }) => sum + expected, 0));
    // On one screen one file does: no list is needed.
    expect(run.fixes[0]?.edits[0]?.after).to.contain('src="big-252.jpg"').and.not.contain('srcset');
  });

  it('saves the bytes of a shared download once, and not while another placement needs them', async () => {
    const folder = await siteOf({
      'thumbs.html': page(
        '<img src="big.jpg" width="250" height="188" alt=""><img src="big.jpg" width="100" height="75" alt="">',
      ),
      'hero.html': page(
        '<img src="big.jpg" width="1000" height="750" alt=""><img src="big.jpg" width="100" height="75" alt="small">',
      ),
      'big.jpg': await photo(1000, 750),
    });
    const run = await auditRun(folder, '--screen', 'only=1000x800@1');
    const findings = findingsOf(run, 'more-pixels-than-needed');
    expect(findings.map(({ placement }) => placement)).to.deep.equal(['/thumbs.html#1', '/thumbs.html#2']);
    const bytes = run.placements[0]?.downloads['only']?.bytes ?? 0;
    const saved = findings.reduce((sum, { screens }) => sum + (screens['only']?.saves ?? 0), 0);
    expect(saved).to.be.below(bytes);
    expect(findings[1]?.screens['only']?.saves).to.equal(0);
  });

  it('tells no style that its file is wider than needed where a file of the next tenth serves as well', async () => {
    const box = 'height:300px;background-size:100% 100%';
    const folder = await siteOf({
      'index.html': page(
        '<p class="near"></p><p class="far"></p>',
        `p{margin:0;${box}}.near{background-image:url(near.jpg)}.far{background-image:url(far.jpg)}`,
      ),
      // Of 1,000 px that are needed.
      'near.jpg': await photo(1080, 324),
      'far.jpg': await photo(1300, 390),
    });
    const run = await auditRun(folder, '--screen', 'only=1000x800@1', '--formats', 'none');
    const found = findingsOf(run, 'more-pixels-than-needed').map(({ placement }) => placement);
    const kindOf = (id: string) => run.placements.find((each) => each.id === id)?.markup.slice(0, 4);
    expect(found.map(kindOf)).to.deep.equal(['.far']);
  });

  const begun = shared(async () => ({
    'index.html': page(
      '<img src="top.jpg" width="200" height="150" alt=""><div style="height:9000px"></div>' +
        '<img src="lazy.jpg" loading="lazy" width="200" height="150" alt=""><img src="eager.jpg" width="200" height="150" alt="">',
    ),
    'top.jpg': await photo(200, 150),
    'lazy.jpg': await photo(210, 150),
    'eager.jpg': await photo(400, 300),
  }));

  it('sees what began before and after scrolling', async () => {
    const run = await begun();
    const began = Object.fromEntries(
      run.placements.map(({ downloads }) => [downloads['only']?.url, downloads['only']?.began]),
    );
    expect(began).to.deep.equal({
      '/top.jpg': 'first-view',
      '/lazy.jpg': 'scrolled',
      '/eager.jpg': 'first-view',
    });
    const [finding, ...others] = findingsOf(run, 'eager-below-fold');
    expect(others).to.have.length(0);
    // The image begins at 150 + 9000 + 150 px, the fold is at 600 px.
    expect(finding?.screens['only']?.['belowFold']).to.equal(8700);
  });

  const roomless = shared(async () => ({
    'index.html': page(
      '<img src="a.jpg" alt=""><img src="a.jpg" class="kept" alt=""><img src="a.jpg" width="400" height="300" alt="">',
      '.kept{width:400px;aspect-ratio:4/3}',
    ),
    'a.jpg': await photo(400, 300),
  }));

  it('finds a box without room only where nothing reserves it', async () => {
    const run = await roomless();
    const [finding, ...others] = findingsOf(run, 'no-dimensions');
    expect(others).to.have.length(0);
    expect(finding?.placement).to.equal('/#1');
    expect(finding?.screens['only']).to.include({ reservedHeight: 0, finalHeight: 300 });
    // Once it has room, nothing stands there until the file comes: both are one edit.
    const [edit] = run.fixes.find(({ checks }) => checks.includes('no-dimensions'))?.edits ?? [];
    expect(edit?.after.replace(/\s+/g, ' ')).to.match(
      /^<img src="a\.jpg" width="400" height="300" alt="" style="background: #[0-9a-f]{6}">$/,
    );
  });

  const named = shared(async () => {
    const picture = await photo(200, 150);
    const names = ['a b.jpg', '100%.jpg', 'no#1.jpg', 'fjellhytte-blå.jpg', '小屋.jpg', "it's.jpg"];
    const tags = names.map((name) => `<img src="${encodeURIComponent(name)}" width="20" height="15" alt="">`);
    return {
      'sub dir/hütte #1.html': page(tags.join('')),
      ...Object.fromEntries(names.map((name) => [`sub dir/${name}`, picture])),
    };
  });

  it('takes file names with spaces, signs and letters of all kinds', async () => {
    const run = await named();
    expect(run.pages.map(({ path }) => path)).to.deep.equal(['/sub%20dir/h%C3%BCtte%20%231.html']);
    expect(run.findings.filter(({ check }) => check === 'does-not-load')).to.deep.equal([]);
    expect(Object.keys(run.placements[4]?.downloads ?? {})).to.deep.equal(['only']);
    expect(run.pages[0]?.visits[0]?.whole.downloads).to.equal(6);
  });

  const broken = shared(async () => {
    const whole = await photo(400, 300);
    return {
      'index.html': page(
        '<img src="gone.jpg" alt=""><img src="html.jpg" alt=""><img src="empty.png" alt=""><img src="good.jpg" width="40" height="30" alt="">',
      ),
      'html.jpg': '<!doctype html><p>Not here',
      'empty.png': '',
      'good.jpg': whole,
    };
  });

  it('reports what does not load, each with its reason, and goes on', async () => {
    const run = await broken();
    expect(findingsOf(run, 'does-not-load').map(({ says }) => says)).to.deep.equal([
      '/gone.jpg does not load on only: the server answers 404.',
      '/html.jpg does not load on only: the file is an HTML page, not an image.',
      '/empty.png does not load on only: the file is empty.',
    ]);
  });

  it('refuses other hosts and says which', async () => {
    const folder = await siteOf({ 'index.html': page('<img src="http://pictures.invalid/a.jpg" alt="">') });
    const run = await auditRun(folder, '--screen', 'only=800x600@1');
    expect(run.refused).to.deep.equal([{ host: 'pictures.invalid', requests: 1, pages: ['/'] }]);
    expect(run.findings.filter(({ check }) => check === 'does-not-load')).to.deep.equal([]);
  });

  it('cuts off a page whose script never ends, and reports the others', async () => {
    const folder = await siteOf({
      'loop.html': page('<p>x</p><script>for(;;);</script>'),
      'later.html': page(
        '<img src="a.jpg" width="40" height="30" alt=""><script>setTimeout(()=>{for(;;);},50)</script>',
      ),
      'good.html': page('<img src="a.jpg" width="40" height="30" alt="">'),
      'a.jpg': await photo(40, 30),
    });
    const run = await auditRun(folder, '--screen', 'only=800x600@1', '--page-limit', '5');
    expect(run.incomplete.map(({ page: path, screen }) => `${path} ${screen}`)).to.deep.equal([
      '/later.html only',
      '/loop.html only',
    ]);
    expect(run.incomplete[1]?.why).to.match(/did not settle within 5 s/);
    expect(run.placements.filter(({ page: path }) => path === '/good.html')).to.have.length(1);
  });

  it('serves clean URLs and a base path', async () => {
    const folder = await siteOf({
      'a/index.html': page('<img src="/docs/p.jpg" width="40" height="30" alt="">'),
      'p.jpg': await photo(40, 30),
    });
    const run = await auditRun(
      folder,
      '--base-path',
      'docs',
      '--screen',
      'only=800x600@1',
      '--page',
      '/docs/a/',
    );
    expect(run.pages[0]?.path).to.equal('/docs/a/');
    expect(run.placements[0]?.downloads['only']?.url).to.equal('/docs/p.jpg');
  });

  it('never reads outside the folder', async () => {
    const folder = await siteOf({
      'index.html': page('<img src="../secret.jpg" alt=""><img src="link.jpg" alt="">'),
    });
    const { symlink } = await import('node:fs/promises');
    await symlink('/etc/hostname', `${folder}/link.jpg`);
    const run = await auditRun(folder, '--screen', 'only=800x600@1');
    expect(findingsOf(run, 'does-not-load').map(({ screens }) => screens['only']?.['why'])).to.deep.equal([
      'the server answers 404',
      'the server answers 404',
    ]);
  });
});

describe('yukkuri audit, used wrongly', function () {
  this.timeout(60_000);
  after(removeSites);

  const cases: [what: string, args: () => Promise<string[]>, code: number, says: RegExp][] = [
    [
      'no such folder',
      async () => ['audit', '/no/such/folder'],
      2,
      /There is no folder "\/no\/such\/folder"/,
    ],
    [
      'a folder without pages',
      async () => ['audit', await siteOf({ 'a.txt': 'x' })],
      2,
      /holds no HTML file \(looked at 1 files\)/,
    ],
    [
      'an unknown page',
      async () => ['audit', await siteOf({ 'index.html': 'x' }), '--page', '/nope'],
      2,
      /no page "\/nope". Its pages: \//,
    ],
    ['an unknown option', async () => ['audit', '.', '--nope'], 2, /unknown option '--nope'/],
    ['an unknown command', async () => ['inspect'], 2, /unknown command 'inspect'/],
    [
      'a screen of another form',
      async () => ['audit', '.', '--screen', 'phone'],
      2,
      /The screen "phone" makes no sense/,
    ],
    [
      'a screen without width',
      async () => ['audit', '.', '--screen', 'a=0x800@2'],
      2,
      /width must be at least 1/,
    ],
    [
      'two screens of one name',
      async () => ['audit', '.', '--screen', 'a=1x1', '--screen', 'a=2x2'],
      2,
      /another screen has the same name/,
    ],
    [
      'a limit that is no number',
      async () => ['audit', '.', '--limit', 'x'],
      2,
      /--limit must be one number for both lists/,
    ],
    [
      'no browser',
      async () => ['audit', await siteOf({ 'index.html': 'x' }), '--browser', '/no/browser'],
      3,
      /--browser names "\/no\/browser"/,
    ],
    [
      'a program that is no browser',
      async () => ['audit', await siteOf({ 'index.html': 'x' }), '--browser', '/bin/true'],
      3,
      /"\/bin\/true" does not start/,
    ],
  ];
  for (const [what, args, code, says] of cases) {
    it(`says what is wrong: ${what}`, async () => {
      const outcome = await yukkuri(await args());
      expect(outcome.err).to.match(says);
      expect(outcome.err).not.to.match(/\n\s+at /);
      expect(outcome.code).to.equal(code);
      expect(outcome.out).to.equal('');
    });
  }
});

describe('the report', function () {
  this.timeout(120_000);
  after(removeSites);

  it('keeps within 80 and 140 columns, without colour in a pipe, and counts what it does not show', async () => {
    const pages = Object.fromEntries(
      Array.from({ length: 6 }, (_, index) => [
        `page-${index}.html`,
        page(
          `<div class="kind-${'abcdef'[index]}"><img src="big.jpg" alt="A rather long text alternative, to be wrapped"></div>`,
          'img{width:300px}',
        ),
      ]),
    );
    const folder = await siteOf({ ...pages, 'big.jpg': await photo(1600, 1200) });
    const saved = join(folder, 'run.json');
    const audited = ['audit', folder, '--encode', 'none', '--screen', 'desk=1200x800@1', '--json', saved];
    expect((await yukkuri(audited)).code).to.equal(0);
    for (const columns of [80, 140]) {
      const { out, code } = await yukkuriProcess(['report', saved, '--limit', '3'], {
        COLUMNS: String(columns),
        NO_COLOR: '',
      });
      expect(code).to.equal(0);
      const widest = Math.max(...out.split('\n').map((line) => line.length));
      expect(widest).to.be.at.most(columns);
      // eslint-disable-next-line no-control-regex
      expect(out).not.to.match(/\u001b/);
      expect(out.match(/^\d+\. /gm)).to.have.length(3);
      expect(out).to.match(/\d+ more fixes, together .* show them with --limit \d+/);
    }
  });

  it('shows page content as plain text', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<img src="big.jpg" alt="\u001b[31mred\u0007 \u202eback" class="x">',
        'img{width:100px}',
      ),
      'big.jpg': await photo(900, 600),
    });
    const { out } = await yukkuri(['audit', folder, '--screen', 'only=800x600@1']);
    expect(out).to.contain('\\u{1b}[31mred');
    // eslint-disable-next-line no-control-regex
    expect(out).not.to.match(/[\u001b\u0007\u202e]/);
  });
});

/** A sound file of zeros: RIFF WAVE, 8 bit, one channel, 8,000 samples a second. */
function silence(seconds: number): Buffer {
  const header = Buffer.alloc(44);
  const length = seconds * 8000;
  header.write('RIFF', 0);
  header.writeUInt32LE(36 + length, 4);
  header.write('WAVEfmt ', 8);
  header.writeUInt32LE(16, 16);
  header.writeUInt16LE(1, 20);
  header.writeUInt16LE(1, 22);
  header.writeUInt32LE(8000, 24);
  header.writeUInt32LE(8000, 28);
  header.writeUInt16LE(1, 32);
  header.writeUInt16LE(8, 34);
  header.write('data', 36);
  header.writeUInt32LE(length, 40);
  return Buffer.concat([header, Buffer.alloc(length, 128)]);
}
