import { access, chmod, mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { page, removeSites, siteOf, yukkuriProcess } from '../support/program.js';

const packaged = fileURLToPath(
  new URL('../../node_modules/@sparticuz/chromium/package.json', import.meta.url),
);

describe('a program that lies where the browser would be unpacked', function () {
  this.timeout(180_000);
  after(removeSites);

  /** Whether it is run, from a folder among the temporary files with this mode, where there is no home. */
  async function isRun(mode: number): Promise<{ run: boolean; code: number | undefined }> {
    const temporary = await siteOf({});
    const { version } = JSON.parse(await readFile(packaged, 'utf8')) as { version: string };
    const folder = join(temporary, `yukkuri-${process.getuid?.()}`);
    const planted = join(folder, `chromium-${version}-2`);
    const marker = join(temporary, 'it-ran');
    await mkdir(planted, { recursive: true });
    await writeFile(join(planted, 'complete'), '');
    await writeFile(join(planted, 'chromium'), `#!/bin/sh\ntouch "${marker}"\n`, { mode: 0o755 });
    await chmod(folder, mode);
    const { code } = await yukkuriProcess(
      ['audit', await siteOf({ 'index.html': page('<p>x') }), '--screen', 'desk=1000x800@1'],
      { HOME: '/dev/null', XDG_CACHE_HOME: '/dev/null/none', TMPDIR: temporary },
    );
    return {
      run: await access(marker).then(
        () => true,
        () => false,
      ),
      code,
    };
  }

  before(function () {
    if (process.platform !== 'linux') this.skip();
  });

  it('is taken for the user’s own in a folder that nobody else can write to', async () => {
    expect(await isRun(0o700)).to.deep.equal({ run: true, code: 3 });
  });

  it('is not run from a folder that others can write to', async () => {
    expect(await isRun(0o777)).to.deep.equal({ run: false, code: 0 });
  });
});
