import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { ridges } from '../support/varied-pictures.js';
import { mendJson } from '../support/mend-json.js';
import { auditRun, findingsOf, page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';

const oneScreen = ['--screen', 'desk=1000x800@1'];
const image = (src: string, width = 600, height = 450) =>
  `<img src="${src}" width="${width}" height="${height}" alt="x">`;

describe('prices in an audit', function () {
  this.timeout(180_000);
  after(removeSites);

  it('names a heavy encoding and an older format, each on what the one before leaves', async () => {
    const folder = await siteOf({
      'index.html': page(image('a.jpg', 500, 375)),
      'a.jpg': await ridges(1000, 750, 95),
    });
    const run = await auditRun(folder, ...oneScreen);
    const [heavy] = findingsOf(run, 'heavier-encoding');
    const [older] = findingsOf(run, 'older-format');
    const [entry] = run.ledger;
    expect(entry?.cuts.map(({ kind }) => kind)).to.deep.equal([
      'fewer-pixels',
      'better-encoding',
      'newer-format',
    ]);
    expect(heavy?.screens['desk']?.['bytesAfter']).to.equal(older?.screens['desk']?.['bytes']);
    expect(entry?.remains).to.equal(older?.screens['desk']?.['bytesAfter']);
    const promised = run.fixes.find(({ checks }) => checks.includes('older-format'))?.files[0];
    const real = await sharp(join(folder, 'a.jpg'))
      .resize({ width: 500, fastShrinkOnLoad: false })
      .avif({ quality: promised?.quality ?? 0, effort: 0, chromaSubsampling: '4:2:0' })
      .toBuffer();
    expect(promised?.error).to.equal(0);
    expect(promised?.bytes).to.be.closeTo(real.length, real.length * 0.05);
  });

  it('makes widths between others as those are made, not as the original is', async () => {
    const original = await ridges(1500, 1000, 95);
    const version = (width: number) =>
      sharp(original)
        .resize({ width, fastShrinkOnLoad: false })
        .jpeg({ quality: 82, progressive: true })
        .toBuffer();
    const folder = await siteOf({
      'index.html': page(
        '<img src="a.jpg" srcset="a-300.jpg 300w, a-1200.jpg 1200w, a.jpg 1500w" sizes="600px" width="600" height="400" alt="x">',
      ),
      'a.jpg': original,
      'a-300.jpg': await version(300),
      'a-1200.jpg': await version(1200),
    });
    const run = await auditRun(folder, ...oneScreen, '--formats', 'none');
    const [gap] = findingsOf(run, 'ladder-gap');
    expect(gap?.screens['desk']?.['bytesAfter']).to.equal((await version(600)).length);
    const copy = join(await siteOf({}), 'copy');
    const { out } = await mendJson(folder, '--to', copy, '--formats', 'none');
    expect(out.files.map(({ bytes, promised }) => bytes - promised)).to.deep.equal(out.files.map(() => 0));
  });

  it('proposes only what the site may use', async () => {
    const folder = await siteOf({
      'index.html': page(image('a.jpg', 500, 375)),
      'a.jpg': await ridges(1000, 750, 80),
    });
    const format = async (formats: string) =>
      findingsOf(await auditRun(folder, ...oneScreen, '--formats', formats), 'older-format').map(
        ({ screens }) => screens['desk']?.['newFormat'],
      );
    expect(await format('webp')).to.deep.equal(['webp']);
    expect(await format('none')).to.deep.equal([]);
  });

  it('keeps what names author and licence only if it is told to', async () => {
    const content = await sharp(await photo(300, 200, 70))
      .withExif({ IFD0: { Copyright: 'Norrfell Huts', ImageDescription: 'x'.repeat(9000) } })
      .jpeg({ quality: 70 })
      .toBuffer();
    const folder = await siteOf({ 'index.html': page(image('a.jpg', 300, 200)), 'a.jpg': content });
    const saves = async (...more: string[]) =>
      findingsOf(await auditRun(folder, ...oneScreen, '--formats', 'none', ...more), 'carried-metadata')[0]
        ?.screens['desk']?.saves ?? 0;
    const [all, without] = [await saves(), await saves('--keep-credits')];
    expect(all).to.be.closeTo(9200, 300);
    expect(without).to.equal(all - 400);
  });

  it('weights pages by their visits, and names paths that the site does not have', async () => {
    const folder = await siteOf({
      'index.html': page(image('a.jpg', 200, 150)),
      'b/index.html': page('<p>No image.'),
      'a.jpg': await photo(800, 600, 90),
      'visits.csv': 'page,visits\n/,1\n/b,3\n/gone?x=1,7\n',
    });
    const run = await auditRun(folder, ...oneScreen, '--traffic', join(folder, 'visits.csv'));
    expect(run.pages.map(({ path, weight }) => [path, weight])).to.deep.equal([
      ['/', 0.25],
      ['/b/', 0.75],
    ]);
    expect(run.strangeTraffic).to.deep.equal([{ path: '/gone', visits: 7 }]);
    const bytes = run.pages[0]?.visits[0]?.whole.bytes ?? 0;
    expect(run.totals.average.expected).to.be.closeTo(bytes / 4, 1);
  });

  it('spends nothing on pictures when told so, and says that it guesses', async () => {
    const folder = await siteOf({
      'index.html': page(image('a.jpg', 200, 150)),
      'a.jpg': await photo(1600, 1200, 90),
    });
    const run = await auditRun(folder, ...oneScreen, '--encode', 'none');
    expect(run.pricing).to.include({ encoded: 0, left: 1 });
    const [fix] = run.fixes;
    expect(fix?.sureness).to.match(/^estimated/);
    // A guess from the file alone may be off by half, and so may what it saves by as many bytes.
    const bytes = fix?.places[0]?.takes['desk']?.bytes ?? 0;
    expect(bytes).to.be.above(0);
    expect(fix?.saves.unsure).to.be.closeTo(bytes / 2, 1);
    const { out } = await yukkuri(['audit', folder, ...oneScreen, '--encode', 'none']);
    expect(out).to.match(
      /sure +estimated: not every width was encoded; it saves between .* and .* an average\s+visit/,
    );
    const limited = await auditRun(folder, ...oneScreen, '--encode-limit', '0');
    expect(limited.pricing).to.include({ encoded: 0, left: 1, limited: true });
  });

  it('goes on without a picture that is cut short, or does not decode', async () => {
    const whole = await photo(900, 700, 90);
    const spoiled = Buffer.from(whole);
    // Markers in the middle of the picture's own data.
    spoiled.fill('ffc4', Math.round(whole.length / 3), Math.round(whole.length / 2), 'hex');
    const folder = await siteOf({
      'index.html': page(image('cut.jpg') + image('spoiled.jpg') + image('good.jpg')),
      'cut.jpg': whole.subarray(0, Math.round(whole.length / 3)),
      'spoiled.jpg': spoiled,
      'good.jpg': whole,
    });
    const run = await auditRun(folder, ...oneScreen);
    expect(
      run.incomplete.map(({ page: path, why }) => [path, /spoiled\.jpg cannot be encoded/.test(why)]),
    ).to.deep.equal([['/', true]]);
    const [cut] = findingsOf(run, 'file-cut-short');
    expect(cut?.screens['desk']).to.include({ url: '/cut.jpg', bytes: Math.round(whole.length / 3) });
    const own = run.findings.filter(({ placement }) => placement === cut?.placement);
    for (const { check, screens } of own) expect(screens['desk']?.saves, check).to.equal(0);
    expect(own.map(({ check }) => check)).not.to.include('more-pixels-than-needed');
    expect(findingsOf(run, 'more-pixels-than-needed')).to.have.length(1);
  });

  it('keeps its measurements between runs, tells their size and removes them', async () => {
    const home = await siteOf({});
    const own = { HOME: home, XDG_CACHE_HOME: join(home, 'cache') };
    expect((await yukkuri(['cache'], own)).out).to.match(
      /^0 measurements of pictures and 0 looks at pages, 0 B, in /,
    );
    const folder = await siteOf({
      'index.html': page(image('a.jpg', 200, 150)),
      'a.jpg': await photo(800, 600, 90),
    });
    await yukkuri(['audit', folder, ...oneScreen, '--no-cache'], own);
    expect((await yukkuri(['cache'], own)).out).to.match(/^0 measurements/);
    const first = await yukkuri(['audit', folder, ...oneScreen], own);
    const [, entries = '0'] = /^(\d+) measurement/.exec((await yukkuri(['cache'], own)).out) ?? [];
    expect(Number(entries)).to.be.above(0);
    const second = await yukkuri(['audit', folder, ...oneScreen], own);
    const told = /^ *Seen before: nothing that the visit would see has changed since it was made\. .*\n/m;
    expect(second.out).to.match(told);
    expect(second.out.replace(told, '')).to.equal(first.out);
    expect((await yukkuri(['cache', '--clear'], own)).out).to.match(
      new RegExp(`^Removed ${entries} measurement`),
    );
    expect((await yukkuri(['cache'], own)).out).to.match(/^0 measurements/);
  });

  it('refuses options that make no sense, with what they should be', async () => {
    const folder = await siteOf({ 'index.html': page(''), 'bad.csv': 'page,visits\n/,many\n' });
    for (const [option, value, said] of [
      ['--formats', 'bmp', /--formats knows avif and webp, not "bmp"/],
      ['--reach', '1=0.5,2=0.9', /--reach must be screenfuls and shares/],
      ['--encode', 'some', /--encode must be none, enough or all/],
      ['--traffic', join(folder, 'none.csv'), /cannot be read/],
      ['--traffic', join(folder, 'bad.csv'), /Line 2 of ".*bad\.csv" must be a path and a number of visits/],
      ['--trifle-share', '2', /--trifle-share must be at most 1/],
    ] as const) {
      const { code, err } = await yukkuri(['audit', folder, option, value]);
      expect(code, `${option} ${value}: ${err}`).to.equal(2);
      expect(err).to.match(said);
    }
  });

  it('names no estimate of what a fix makes: each file weighs what was said', async () => {
    const widths = [150, 300, 768, 1024];
    const ladder = widths.map((width) => `a-${width}.jpg ${width}w`).join(', ');
    const folder = await siteOf({
      'index.html': page(
        `<img src="a.jpg" srcset="${ladder}, a.jpg 1600w" sizes="100vw" width="1600" height="1200" alt="One"><img class="near" src="b.jpg" width="1400" height="1050" alt="Two">`,
        'img{max-width:100%;height:auto}.near{width:1320px;max-width:none}',
      ),
      'a.jpg': await photo(1600, 1200, 54),
      'b.jpg': await photo(1400, 1050, 91),
      ...Object.fromEntries(
        await Promise.all(
          widths.map(
            async (width) => [`a-${width}.jpg`, await photo(width, Math.round(width * 0.75), 54)] as const,
          ),
        ),
      ),
    });
    const { out } = await mendJson(folder, '--to', join(await siteOf({}), 'copy'));
    expect(out.files.length).to.be.greaterThan(4);
    for (const { name, promised, bytes } of out.files) expect(bytes, name).to.equal(promised);
  });
});
