import { readdir } from 'node:fs/promises';
import { expect } from 'chai';
import { execa } from 'execa';
import { Browser } from '../../dist/src/browser/index.js';
import { endKeptProcess } from '../../dist/src/browser/kept-process.js';
import { browsersOf, processesLeft } from '../support/processes.js';
import { removeSites, siteOf } from '../support/program.js';

const nothing = { allows: () => false };
const sum = async (browser: Browser) =>
  browser.inTab({}, async ({ session }) => {
    const { result } = await session.send('Runtime.evaluate', { expression: '2 + 3' });
    return result.value as unknown;
  });

describe('a browser process that nobody needs any more', function () {
  this.timeout(60_000);
  before(function () {
    if (process.platform !== 'linux') this.skip();
  });
  after(removeSites);
  afterEach(endKeptProcess);

  it('is the next one’s, as long as it is started with the same and runs', async () => {
    // The built program keeps browsers too, in the same process of the tests.
    const others = new Set(await browsersOf(process.pid));
    const ids: number[][] = [];
    const use = async (options: { sandbox?: boolean; contextsEach?: number } = {}, everywhere = false) => {
      const browser = await Browser.open(options, { ...nothing, everywhere });
      expect(await sum(browser)).to.equal(5);
      ids.push((await browsersOf(process.pid)).filter((id) => !others.has(id)));
      await browser.close();
    };
    await use();
    await use();
    expect(ids[0]).to.have.length(1);
    expect(ids[1]).to.deep.equal(ids[0]);
    // One that may look up names of hosts is another one, and takes the other's place.
    await use({}, true);
    expect(ids[2]).to.have.length(2).and.to.include(ids[0]?.[0]);
    await use({}, true);
    expect(ids[3]).to.have.length(1).and.not.to.include(ids[0]?.[0]);
    // It has had two tabs.
    await use({ contextsEach: 2 }, true);
    const [third] = (ids[4] ?? []).filter((id) => !ids[3]?.includes(id));
    expect(third).to.be.above(0);
    process.kill(third ?? Number.NaN, 'SIGKILL');
    await use({}, true);
    expect(ids[5]).to.have.length(1).and.not.to.include(third);
  });

  it('ends with the program, which does not wait for it, and leaves no file', async () => {
    const temporary = await siteOf({});
    const home = new URL('../../dist/src/browser/index.js', import.meta.url).href;
    const script =
      `const { Browser } = await import(${JSON.stringify(home)});` +
      `const browser = await Browser.open({}, { allows: () => false }); await browser.close(); console.log(process.uptime());`;
    const { stdout } = await execa(process.execPath, ['--input-type=module', '--eval', script], {
      env: { TMPDIR: temporary },
      timeout: 8000,
    });
    expect(Number(stdout)).to.be.above(0);
    expect(await processesLeft(temporary)).to.deep.equal([]);
    expect((await readdir(temporary)).filter((name) => name.startsWith('yukkuri'))).to.deep.equal([]);
  });
});
