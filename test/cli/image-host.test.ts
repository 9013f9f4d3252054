import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { serveImageHost, type ImageHostServer } from '../../dist/demo/image-host.js';
import type { Run } from '../../src/core/run/index.js';
import { auditRun, page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';
import type { MendOutput } from '../support/mend-json.js';

const desk = ['--screen', 'desk=1000x800@1,share=0.5', '--screen', 'phone=400x800@2,share=0.5'];

describe('a host that resizes by address', function () {
  this.timeout(240_000);
  let host: ImageHostServer;
  let folder: string;
  let known: string[];

  before(async () => {
    const pictures = await siteOf({
      'a.jpg': await photo(2000, 1200, 95),
      'b.jpg': await photo(1500, 1000, 95),
    });
    host = await serveImageHost(pictures);
    folder = await siteOf({
      'index.html': page(
        `<link rel="icon" href="data:,"><img src="${host.origin}/a.jpg?width=1800" width="1800" height="1080" alt="a" style="width:400px;height:240px"><img src="${host.origin}/b.jpg?width=1200&amp;format=auto" srcset="${host.origin}/b.jpg?width=600&amp;format=auto 600w, ${host.origin}/b.jpg?width=1200&amp;format=auto 1200w" sizes="100vw" alt="b" width="1200" height="800" style="width:300px;height:200px">`,
      ),
    });
    known = ['--allow', host.origin.replace('http://', ''), '--image-host', host.template];
  });
  after(async () => {
    await host.close();
    await removeSites();
  });

  const asked = (run: Run) => run.fixes.flatMap(({ files }) => files).filter((file) => file.asked);

  it('gives the files that fixes name, at what they were asked for', async () => {
    const run = await auditRun(folder, ...known, ...desk);
    const files = asked(run);
    expect(files.length).to.be.above(3);
    expect(run.fixes.flatMap((fix) => fix.files).every((file) => file.asked)).to.equal(true);
    for (const { name, bytes } of files) {
      const answer = await fetch(name, { headers: { accept: 'image/avif,image/webp,*/*' } });
      expect([answer.status, (await answer.arrayBuffer()).byteLength], name).to.deep.equal([200, bytes]);
    }
    // The host chooses the format of the second by itself.
    expect(
      files.filter(({ name }) => name.includes('/b.jpg')).every(({ name }) => name.includes('format=auto')),
    ).to.equal(true);
    expect(files.some(({ name }) => /\/a\.jpg\?width=\d+&format=avif&quality=\d+$/.test(name))).to.equal(
      true,
    );
    expect(run.incomplete).to.deep.equal([]);
  });

  it('is mended in the tags only, and every promise is kept', async () => {
    const copy = join(await siteOf({}), 'copy');
    const { out, code, err } = await yukkuri(['mend', folder, '--to', copy, '--json', ...known, ...desk]);
    const { proof, files, edited } = JSON.parse(out) as MendOutput;
    expect([code, proof?.kept, files, edited], err).to.deep.equal([0, true, [], ['index.html']]);
    expect(proof?.average.promised).to.be.above(50_000);
    expect(proof?.layout.changes).to.deep.equal([]);
    expect(await readFile(join(copy, 'index.html'), 'utf8')).to.include('width=400');
  });

  it('is guessed from addresses, and not used unasked', async () => {
    const run = await auditRun(folder, ...known.slice(0, 2), ...desk, '--encode', 'none');
    expect(asked(run)).to.deep.equal([]);
    expect(run.hostGuesses).to.deep.equal([
      { template: `${host.origin}/{+path}?width={width}`, pictures: 1 },
    ]);
  });

  it('is told by a template that makes sense', async () => {
    const { code, err } = await yukkuri(['audit', folder, '--image-host', 'https://a.invalid/{+path}']);
    expect(code).to.equal(2);
    expect(err).to.match(/--image-host must have the variable \{width\}; got "https:\/\/a\.invalid/);
  });

  it('refuses what it does not have', async () => {
    for (const [address, status] of [
      ['/a.jpg?width=2001', 400],
      ['/a.jpg?width=x', 400],
      ['/a.jpg?quality=101', 400],
      ['/a.jpg?format=tiff', 400],
      ['/../package.json', 404],
      ['/none.jpg', 404],
    ] as const)
      expect((await fetch(host.origin + address)).status, address).to.equal(status);
    const auto = await fetch(`${host.origin}/a.jpg?width=40&format=auto`, {
      headers: { accept: 'image/webp,*/*' },
    });
    expect([auto.headers.get('content-type'), auto.headers.get('vary')]).to.deep.equal([
      'image/webp',
      'Accept',
    ]);
  });
});
