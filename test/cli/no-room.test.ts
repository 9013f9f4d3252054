import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { execa } from 'execa';
import { page, photo, removeSites, siteOf, yukkuri, yukkuriProcess } from '../support/program.js';

const program = fileURLToPath(new URL('../../dist/program/yukkuri.js', import.meta.url));
const desk = ['--screen', 'desk=1000x800@1'];

describe('where there is no room', function () {
  this.timeout(180_000);
  let folder = '';
  before(async function () {
    // The device that is always full.
    if (process.platform !== 'linux') this.skip();
    folder = await siteOf({
      'index.html': page('<img src="a.jpg" width="200" height="150" alt="A hut">'),
      'a.jpg': await photo(400, 300),
    });
  });
  after(removeSites);

  it('for the run’s file, that is said with what to do', async () => {
    const { code, out, err } = await yukkuri(['audit', folder, ...desk, '--json', '/dev/full']);
    expect(code).to.equal(3);
    expect(out).to.equal('');
    expect(err).to.match(/The run cannot be written to "\/dev\/full": ENOSPC.*Name another file/);
  });

  it('for what is printed, the program ends with a sentence', async () => {
    const led = ['-c', 'exec "$0" "$@" > /dev/full', process.execPath, program];
    const { exitCode, stderr } = await execa('sh', [...led, 'audit', folder, ...desk], { reject: false });
    expect(exitCode).to.equal(3);
    expect(stderr).to.match(/The output cannot be written: ENOSPC/);
    expect(stderr).not.to.match(/\n\s+at /);
  });

  it('for temporary files, the program says so and ends', async () => {
    const fresh = ['audit', folder, ...desk, '--fresh'];
    const { code, err } = await yukkuriProcess(fresh, { TMPDIR: '/dev/null/none' });
    expect(code).to.equal(3);
    expect(err).to.match(/No temporary folder can be made in "\/dev\/null\/none".*TMPDIR/);
    expect(err).not.to.match(/\n\s+at /);
  });

  it('for a cache, all is measured as ever', async () => {
    const usual = await yukkuri(['audit', folder, ...desk, '--fresh']);
    const without = await yukkuriProcess(['audit', folder, ...desk], {
      HOME: '/dev/null',
      XDG_CACHE_HOME: join('/dev/null', 'cache'),
    });
    expect(without.code).to.equal(0);
    expect(without.out).to.equal(usual.out);
    expect(without.out).to.match(/Encoded at equal looks: 1 of 1 picture/);
  });
});
