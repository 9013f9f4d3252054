import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';

interface WeighedFile {
  name: string;
  problem?: string;
  economical?: boolean | null;
  variants?: { width: number; format: string; bytes: number; quality: number | null; error: number }[];
  ship?: { width: number; format: string; bytes: number }[];
}

describe('yukkuri weigh', function () {
  this.timeout(120_000);
  after(removeSites);

  it('tells what real encodes weigh, and which to serve', async () => {
    const folder = await siteOf({ 'a.jpg': await photo(900, 600, 92) });
    const file = join(folder, 'a.jpg');
    const { code, out } = await yukkuri(['weigh', file, '--widths', '300,600', '--json']);
    expect(code).to.equal(0);
    const [weighed] = (JSON.parse(out) as { files: WeighedFile[] }).files;
    expect(weighed?.variants?.map(({ width, format }) => `${width} ${format}`)).to.deep.equal([
      '300 avif',
      '300 jpeg',
      '300 webp',
      '600 avif',
      '600 jpeg',
      '600 webp',
    ]);
    for (const { width, format, bytes, quality, error } of weighed?.variants ?? []) {
      expect(error).to.equal(0);
      const pixels = sharp(file).resize({ width, fastShrinkOnLoad: false });
      const settings = { quality: quality ?? 0 };
      const encoded =
        format === 'avif'
          ? pixels.avif({ ...settings, effort: 0, chromaSubsampling: '4:2:0' })
          : format === 'webp'
            ? pixels.webp(settings)
            : pixels.jpeg({ ...settings, progressive: true });
      const real = (await encoded.toBuffer()).length;
      expect(bytes, `${format} at ${width} px`).to.be.closeTo(real, real * 0.05);
    }
    const smallest = Math.min(
      ...(weighed?.variants ?? []).filter(({ width }) => width === 300).map(({ bytes }) => bytes),
    );
    expect(weighed?.ship?.[0]).to.include({ width: 300, bytes: smallest });
  });

  it('lays variants side by side in a picture', async () => {
    const folder = await siteOf({ 'a.jpg': await photo(500, 400, 92) });
    const target = join(folder, 'compared.png');
    const { code, out } = await yukkuri([
      'weigh',
      join(folder, 'a.jpg'),
      '--widths',
      '400',
      '--picture',
      target,
    ]);
    expect(code).to.equal(0);
    expect(out).to.match(/the original at 400 px \| AVIF, quality \d+, [\d.]+ kB \| JPEG, quality 73/);
    // Four tiles of 300 px with 12 px around them; 30 px for their names.
    expect(await sharp(await readFile(target)).metadata()).to.include({ width: 4 * 312 + 12, height: 354 });
  });

  it('weighs the pictures of a fix of the last audit, at the widths that it asks for', async () => {
    const home = await siteOf({});
    const own = { HOME: home, XDG_CACHE_HOME: join(home, 'cache') };
    const before = await yukkuri(['weigh', '--fix', 'fix.x'], own);
    expect(before.code).to.equal(2);
    expect(before.err).to.match(/No audit is remembered here\. Run yukkuri audit <folder> first\./);
    const folder = await siteOf({
      'index.html': page('<img src="a.jpg" width="300" height="225" alt="A hut">'),
      'a.jpg': await photo(1600, 1200, 95),
    });
    const screen = ['--screen', 'desk=1000x800@1'];
    const { out } = await yukkuri(['audit', folder, ...screen, '--json', join(home, 'run.json')], own);
    const [, id = ''] = /image on \/ (fix\.\w+)/.exec(out) ?? [];
    const target = join(home, 'compared.png');
    const weighed = await yukkuri(['weigh', '--fix', id, '--picture', target, '--json'], own);
    const [file] = (JSON.parse(weighed.out) as { files: WeighedFile[] }).files;
    expect(new Set(file?.variants?.map(({ width }) => width))).to.deep.equal(new Set([300]));
    expect((await sharp(target).metadata()).format).to.equal('png');
    const unknown = await yukkuri(['weigh', '--fix', 'fix.x'], own);
    expect(unknown.code).to.equal(2);
    expect(unknown.err).to.match(/has no fix "fix\.x"/);
  });

  it('names what cannot be weighed and weighs the rest', async () => {
    const folder = await siteOf({
      'cut.jpg': (await photo(400, 300)).subarray(0, 150),
      'empty.png': '',
      'page.webp': '<!doctype html><p>Moved',
      'dot.png': await sharp({ create: { width: 1, height: 1, channels: 3, background: '#fff' } })
        .png()
        .toBuffer(),
      'good.jpg': await photo(400, 300),
    });
    const names = ['cut.jpg', 'empty.png', 'page.webp', 'dot.png', 'none.jpg', '.', 'good.jpg'].map((name) =>
      join(folder, name),
    );
    const { code, out } = await yukkuri(['weigh', ...names, '--widths', '200', '--json']);
    expect(code).to.equal(0);
    const problems = (JSON.parse(out) as { files: WeighedFile[] }).files.map(({ problem }) => problem);
    expect(problems[0]).to.match(/does not decode/);
    expect(problems.slice(1)).to.deep.equal([
      'the file is empty',
      'the file is an HTML page, not an image',
      'it is only 1 × 1 px; below 32 px what a file weighs is not its picture',
      'there is no such file',
      'it is a folder; name the image files in it',
      undefined,
    ]);
  });

  it('ends with 3 when nothing could be weighed, and with 2 for options that make no sense', async () => {
    expect((await yukkuri(['weigh', '/none.jpg'])).code).to.equal(3);
    for (const [option, value, said] of [
      ['--widths', '10,x', /--widths must be whole px/],
      ['--formats', 'jxr', /--formats knows avif and webp/],
      ['--at', '2,0', /--at must be two shares/],
      ['--looks', '200', /--looks must be at most 95/],
    ] as const) {
      const { code, err } = await yukkuri(['weigh', 'a.jpg', option, value]);
      expect(code, option).to.equal(2);
      expect(err).to.match(said);
    }
    expect((await yukkuri(['weigh', 'a.jpg', 'b.jpg', '--picture', 'c.png'])).err).to.match(
      /shows one image; got 2/,
    );
  });
});
