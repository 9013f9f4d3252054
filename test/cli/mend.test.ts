import { chmod, mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { execa } from 'execa';
import iconv from 'iconv-lite';
import { expect } from 'chai';
import sharp from 'sharp';
import type { Run } from '../../src/core/run/index.js';
import { page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';
import { mendJson, mendScreens as screens } from '../support/mend-json.js';

/** A shop of one template on three pages, with a style, a preload, metadata, a drawing, and things that nobody can paste. */
async function smallShop(): Promise<string> {
  const card = (name: string) =>
    `<article><img src="/pictures/${name}.jpg" width="900" height="675" alt="Thing ${name}"></article>`;
  const frame = (body: string) =>
    `<!doctype html>\r\n<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Shop</title><link rel="stylesheet" href="/shop.css"></head>\r\n<body>\t${body}\r\n</body></html>\n`;
  const note = '<p style="height:300px">Text — with “signs” of all kinds</p>';
  return siteOf({
    'index.html': frame(
      `${card('one')}${note}${card('two')}<div class="band"></div><img src="none.jpg" alt="Gone">`,
    ),
    'second.html': frame(
      `${card('three')}${note}<script>document.body.append(Object.assign(new Image(300, 225), { src: '/pictures/one.jpg', alt: 'Made' }))</script>`,
    ),
    'third.html': frame(`${note}${card('two')}${card('one')}`),
    'shop.css':
      'body{margin:0}\narticle{padding:20px;max-width:560px}article img{width:100%;height:auto}\n.band { height: 200px; background: url(pictures/band.jpg) center / cover }\n',
    'pictures/one.jpg': await photo(900, 675, 92),
    'pictures/two.jpg': await sharp(await photo(900, 675, 95))
      .withExif({ IFD0: { ImageDescription: 'x'.repeat(9000) } })
      .jpeg({ quality: 92 })
      .toBuffer(),
    'pictures/three.jpg': await photo(900, 675, 80),
    'pictures/band.jpg': await photo(1400, 500, 92),
    'notes.bin': Buffer.from([0, 255, 254, 10, 13]),
  });
}

describe('yukkuri mend', function () {
  this.timeout(300_000);
  after(removeSites);

  it('mends a copy, keeps every promise there, and leaves all other bytes as they were', async () => {
    const folder = await smallShop();
    const elsewhere = await siteOf({});
    const [copy, patch] = [join(elsewhere, 'copy'), join(elsewhere, 'mend.patch')];
    const { code, out } = await mendJson(folder, '--to', copy, '--patch', patch);
    expect(out.proof?.fixes).to.not.deep.equal({});
    for (const [fix, { kept, reasons }] of Object.entries(out.proof?.fixes ?? {}))
      expect(kept, `${fix} ${reasons.join()}`).to.equal(true);
    for (const { promised, achieved, kept } of Object.values(out.proof?.screens ?? {})) {
      expect(kept).to.equal(true);
      expect(promised).to.be.above(50_000);
      expect(achieved).to.be.closeTo(promised, Math.max(2000, promised * 0.02));
    }
    expect(out.proof?.layout.changes).to.deep.equal([]);
    expect(code).to.equal(0);
    expect(out.left.length).to.be.above(0);
    for (const { name, bytes, problem } of out.files) {
      expect(problem).to.equal(null);
      expect((await readFile(join(copy, name))).length).to.equal(bytes);
    }
    // What was not edited is the same to the byte; what was is the patch and nothing else.
    const made = new Set(out.files.map(({ name }) => name.slice(1)));
    for (const entry of await readdir(copy, { recursive: true, withFileTypes: true })) {
      if (!entry.isFile()) continue;
      const name = join(entry.parentPath, entry.name).slice(copy.length + 1);
      if (made.has(name) || out.edited.includes(name)) continue;
      expect((await readFile(join(copy, name))).equals(await readFile(join(folder, name))), name).to.equal(
        true,
      );
    }
    await execa('git', ['init', '-q', folder]);
    await execa('git', ['apply', patch], { cwd: folder });
    for (const name of out.edited)
      expect((await readFile(join(copy, name))).equals(await readFile(join(folder, name))), name).to.equal(
        true,
      );
  });

  it('edits pages in the encoding that they are written in', async () => {
    const tag = (text: string) =>
      page(`<p>${text}</p><img src="three.jpg" width="300" height="225" alt="${text}">`);
    const written = {
      'central.html': iconv.encode(tag('Hütte – 5 €').replace('utf-8', 'iso-8859-1'), 'windows-1252'),
      'eastern.html': iconv.encode(tag('山小屋ソ').replace('utf-8', 'shift_jis'), 'shift_jis'),
      'wide.html': Buffer.from(`\ufeff${tag('Łódź')}`, 'utf16le'),
    };
    const folder = await siteOf({ ...written, 'three.jpg': await photo(900, 675, 80) });
    const elsewhere = await siteOf({});
    const [copy, patch] = [join(elsewhere, 'copy'), join(elsewhere, 'mend.patch')];
    const { code, out } = await mendJson(folder, '--to', copy, '--patch', patch);
    expect([code, out.edited]).to.deep.equal([0, Object.keys(written)]);
    const charsets = { 'central.html': 'windows-1252', 'eastern.html': 'shift_jis', 'wide.html': 'utf-16le' };
    for (const [name, charset] of Object.entries(charsets)) {
      const text = (content: Buffer) => iconv.decode(content, charset);
      const [before, after] = [await readFile(join(folder, name)), await readFile(join(copy, name))];
      expect(text(after)).to.contain('srcset');
      const withoutImage = (content: Buffer) => text(content).replace(/<(picture|img).*>/s, '');
      expect(withoutImage(after)).to.equal(withoutImage(before));
      expect(text(after).match(/alt="([^"]*)"/)?.[1]).to.equal(text(before).match(/alt="([^"]*)"/)?.[1]);
    }
    await execa('git', ['init', '-q', folder]);
    await execa('git', ['apply', patch], { cwd: folder });
    for (const name of out.edited)
      expect((await readFile(join(copy, name))).equals(await readFile(join(folder, name))), name).to.equal(
        true,
      );
  });

  it('says what it would do, does only what it is asked for, and takes a saved run', async () => {
    const folder = await smallShop();
    const elsewhere = await siteOf({});
    const saved = join(elsewhere, 'run.json');
    await yukkuri(['audit', folder, ...screens, '--encode', 'all', '--formats', 'none', '--json', saved]);
    const run = JSON.parse(await readFile(saved, 'utf8')) as Run;
    const tried = await yukkuri(['mend', folder, '--from', saved, '--try', '--first', '1', ...screens]);
    expect(tried.code).to.equal(0);
    expect(tried.out).to.match(/1 fix would be made/);
    expect(await readdir(elsewhere)).to.deep.equal(['run.json']);
    const [first] = run.fixes.filter(({ kind }) => kind === 'edit');
    const copy = join(elsewhere, 'one');
    // A part of a page that no audit saw holds the same text.
    const text = run.placements.find(({ id }) => id === first?.places[0]?.placement)?.markup ?? '';
    await writeFile(join(folder, 'part.html'), `<div>${text}</div>`);
    const { out, code, err } = await mendJson(
      folder,
      '--from',
      saved,
      '--to',
      copy,
      '--fix',
      first?.id ?? '',
    );
    // Nor is it looked at to prove what was promised of others.
    expect(err).to.match(new RegExp(`^visits: ${run.pages.length * 2}$`, 'm'));
    expect(out.elsewhere).to.deep.equal([{ fix: first?.id, title: first?.title, files: ['part.html'] }]);
    expect(await readFile(join(copy, 'part.html'), 'utf8')).to.equal(`<div>${text}</div>`);
    expect(out.fixes.map(({ id }) => id)).to.deep.equal([first?.id]);
    expect(out.proof?.fixes[first?.id ?? '']?.kept).to.equal(true);
    expect(code).to.equal(0);
    // The site changes after the run was saved: nothing is edited blindly.
    const file =
      first?.places.find(({ source }) => source?.file.endsWith('.html'))?.source?.file ?? 'index.html';
    await writeFile(join(folder, file), '<!doctype html><title>New</title><p>Nothing is where it was');
    const changed = await mendJson(
      folder,
      '--from',
      saved,
      '--to',
      join(elsewhere, 'two'),
      '--fix',
      first?.id ?? '',
    );
    expect(changed.out.fixes).to.deep.equal([]);
    expect(changed.out.left[0]?.why).to.contain(`${file} has changed since the audit`);
  });

  it('refuses targets that would spoil something, and leaves nothing behind', async () => {
    const folder = await smallShop();
    const elsewhere = await siteOf({ 'full/file.txt': 'mine', 'bad.json': '{"format":"other"}' });
    for (const [args, said] of [
      [['--to', join(folder, 'copy')], /lies inside the site/],
      [['--to', folder], /is the site itself/],
      [['--to', join(elsewhere, 'full')], /is there and not empty/],
      [[], /Give the folder for the copy with --to/],
      [['--to', join(elsewhere, 'x'), '--from', join(elsewhere, 'bad.json')], /is no run of this version/],
      [['--to', join(elsewhere, 'x'), '--cause', 'luck'], /--cause must be one of/],
    ] as const) {
      const { code, err } = await yukkuri(['mend', folder, ...args, ...screens]);
      expect(code, err).to.equal(2);
      expect(err).to.match(said);
    }
    const unknown = await yukkuri([
      'mend',
      folder,
      '--to',
      join(elsewhere, 'x'),
      '--fix',
      'fix.none',
      ...screens,
      '--encode',
      'none',
    ]);
    expect(unknown.code).to.equal(2);
    expect(unknown.err).to.match(/The run has no fix "fix\.none"/);
    expect((await readdir(elsewhere)).sort()).to.deep.equal(['bad.json', 'full']);
    expect(await readFile(join(elsewhere, 'full', 'file.txt'), 'utf8')).to.equal('mine');
  });

  it('edits files that are read-only in the site', async () => {
    const folder = await siteOf({
      'index.html': page(
        '<img src="a.jpg" width="900" height="675" style="width:300px;height:auto" alt="A hut">',
      ),
      'a.jpg': await photo(900, 675, 92),
    });
    await chmod(join(folder, 'index.html'), 0o444);
    const elsewhere = await siteOf({});
    await mkdir(join(elsewhere, 'copy'));
    const { out, code } = await mendJson(folder, '--to', join(elsewhere, 'copy'), '--formats', 'none');
    expect(code).to.equal(0);
    expect(out.edited).to.deep.equal(['index.html']);
    expect(await readFile(join(elsewhere, 'copy', 'index.html'), 'utf8')).to.contain('srcset');
  });
});
