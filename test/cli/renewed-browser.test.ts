import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { readRun, type Run } from '../../src/core/run/index.js';
import { processesLeft } from '../support/processes.js';
import { page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';

const withoutMeta = ({ meta: _, ...run }: Run) => JSON.stringify(run);

describe('a browser that has shown many pages', function () {
  this.timeout(120_000);
  after(removeSites);

  it('is renewed, which changes nothing and leaves no process', async function () {
    if (process.platform !== 'linux') this.skip();
    const pages = Array.from({ length: 4 }, (_, index) => [
      `${index}.html`,
      page(`<img src="a.jpg" width="40" height="30" alt="${index}">`),
    ]);
    const folder = await siteOf({ ...Object.fromEntries(pages), 'a.jpg': await photo(40, 30) });
    const screens = ['--screen', 'phone=400x800@2,share=0.5', '--screen', 'desk=1000x800@1,share=0.5'];
    const options = ['audit', folder, '--json', '--fresh', '--encode', 'none', ...screens];
    const usual = readRun(JSON.parse((await yukkuri(options)).out));
    const temporary = await mkdtemp(join(tmpdir(), 'yukkuri-renewed-'));
    const { out, err, code } = await yukkuri([...options, '--renew-browser', '3'], {
      TMPDIR: temporary,
    });
    expect(code, err).to.equal(0);
    const renewed = readRun(JSON.parse(out));
    expect(withoutMeta(renewed)).to.equal(withoutMeta(usual));
    // Eight visits, and one look at how early lazy images load: three of each three.
    expect(renewed.meta.browserRenewals).to.equal(3);
    expect([usual.meta.browserRenewals, renewed.meta.browserRestarts]).to.deep.equal([0, 0]);
    expect(await processesLeft(temporary)).to.deep.equal([]);
    await rm(temporary, { recursive: true, force: true });
  });

  it('is not renewed after no page at all', async () => {
    const { err, code } = await yukkuri(['audit', '.', '--renew-browser', '0']);
    expect(code).to.equal(2);
    expect(err).to.match(/--renew-browser must be/);
  });
});
