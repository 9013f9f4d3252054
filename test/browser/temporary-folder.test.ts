import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, rm, utimes } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { TemporaryFolder } from '../../src/browser/temporary-folder.js';

/** No process has this number: the highest there is on Linux is 4,194,304. */
const ended = 99_999_999;

describe('a temporary folder', () => {
  const { TMPDIR } = process.env;
  let place = '';
  beforeEach(async () => {
    place = await mkdtemp(join(tmpdir(), 'yukkuri-test-'));
    process.env['TMPDIR'] = place;
  });
  afterEach(async () => {
    if (TMPDIR === undefined) delete process.env['TMPDIR'];
    else process.env['TMPDIR'] = TMPDIR;
    await rm(place, { recursive: true, force: true });
  });

  it('is there until it is removed', () => {
    const folder = new TemporaryFolder('browser');
    expect(existsSync(folder.path)).to.equal(true);
    folder.remove();
    expect(existsSync(folder.path)).to.equal(false);
  });

  it('takes with it what programs left that were killed long ago, and nothing else', async () => {
    const long = new Date(Date.now() - 2 * 24 * 3600 * 1000);
    const names = {
      abandoned: `yukkuri-browser-${ended}-abc`,
      running: `yukkuri-browser-${process.pid}-abc`,
      lately: `yukkuri-browser-${ended}-def`,
      other: `yukkuri-unpacked-${ended}-abc`,
      strange: 'yukkuri-browser-abc',
    };
    for (const [what, name] of Object.entries(names)) {
      await mkdir(join(place, name, 'inside'), { recursive: true });
      if (what !== 'lately') await utimes(join(place, name), long, long);
    }
    new TemporaryFolder('browser').remove();
    for (const [what, name] of Object.entries(names))
      expect(existsSync(join(place, name)), what).to.equal(what !== 'abandoned');
  });
});
