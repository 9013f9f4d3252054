import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { mendJson, mendScreens as screens } from '../support/mend-json.js';
import { auditRun, page, photo, removeSites, siteOf } from '../support/program.js';

const hashOf = (name: string, content: string | Buffer) =>
  `${name}-${createHash(name).update(content).digest('base64')}`;

describe('Pages that are protected against other texts than their own', function () {
  this.timeout(300_000);
  after(removeSites);

  // Without room for its height, so that the tag would need a style; the colour behind it is one.
  const sheet =
    'body{margin:0}img{display:block;width:300px}.large{height:400px;background:url(large.png) center/cover}';
  const styled = '.large{height:300px;background:url(large.png) center/cover}';
  const withHead = (head: string, body: string) =>
    `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>T</title>${head}</head><body>${body}</body></html>`;
  const site = async () =>
    siteOf({
      'stated.html': withHead(
        `<meta http-equiv="Content-Security-Policy" content="default-src 'self'"><link rel="stylesheet" href="main.css">`,
        '<img src="a.jpg" alt="stated">',
      ),
      'sent.html': withHead('<link rel="stylesheet" href="main.css">', '<img src="a.jpg" alt="sent">'),
      'known.html': withHead(
        `<meta http-equiv="content-security-policy" content="style-src '${hashOf('sha256', styled)}'"><style>${styled}</style>`,
        '<div class="large"></div>',
      ),
      'sealed.html': withHead(
        `<link rel="stylesheet" href="main.css" integrity='${hashOf('sha256', sheet)} ${hashOf('sha512', sheet)}'>`,
        '<div class="large"></div>',
      ),
      'free.html': page('<img src="a.jpg" alt="free">', 'img{width:300px}'),
      'main.css': sheet,
      'a.jpg': await photo(1200, 800),
      'large.png': await sharp(await photo(900, 600))
        .png()
        .toBuffer(),
    });

  it('get no text that would not be applied, and new hashes of sheets', async () => {
    const folder = await site();
    const headers = join(await siteOf({}), 'headers');
    await writeFile(headers, "/sent.html\n  Content-Security-Policy: img-src 'self', style-src 'self'\n");
    const given = ['--headers', headers, '--encode', 'all', '--formats', 'none'];
    const run = await auditRun(folder, ...screens, ...given);
    const forbids = run.pages.map(({ path, forbids = [] }) => [path, forbids]);
    expect(Object.fromEntries(forbids)).to.deep.equal({
      '/free.html': [],
      '/known.html': ['changed-styles', 'style-attributes'],
      '/sealed.html': [],
      '/sent.html': ['changed-styles', 'inlined-pictures', 'style-attributes'],
      '/stated.html': ['changed-styles', 'inlined-pictures', 'style-attributes'],
    });
    const notesOn = (path: string) =>
      run.fixes.filter(({ pages }) => pages.includes(path)).flatMap(({ notes }) => notes);
    expect(notesOn('/stated.html').join(' '))
      .to.include('applies no style of an attribute')
      .and.not.include('data:');
    expect(notesOn('/free.html').join(' ')).to.include('data:');
    expect(notesOn('/known.html').join(' ')).to.include('knows its style element by a hash');
    expect(notesOn('/sealed.html').join(' ')).to.include('main.css is linked with its hash');

    const copy = join(await siteOf({}), 'copy');
    const { out, code } = await mendJson(folder, '--to', copy, ...given);
    expect(out.proof?.layout.changes).to.deep.equal([]);
    expect(code).to.equal(0);
    const text = (name: string) => readFile(join(copy, name), 'utf8');
    for (const name of ['stated.html', 'sent.html']) {
      expect(await text(name)).to.not.include('style=');
      expect(await text(name)).to.include('srcset=');
    }
    expect(await text('free.html')).to.include('style="');
    expect(await text('known.html')).to.equal(await readFile(join(folder, 'known.html'), 'utf8'));
    const mended = await text('main.css');
    expect(mended).to.not.equal(sheet);
    expect(await text('sealed.html')).to.include(
      `integrity="${hashOf('sha256', mended)} ${hashOf('sha512', mended)}"`,
    );
  });
});
