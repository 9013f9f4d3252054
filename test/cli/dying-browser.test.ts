import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { execa } from 'execa';
import { readRun } from '../../src/core/run/index.js';
import { browsersOf } from '../support/processes.js';
import { page, photo, removeSites, siteOf } from '../support/program.js';

const program = fileURLToPath(new URL('../../dist/program/yukkuri.js', import.meta.url));

describe('a browser that dies in mid-run', function () {
  this.timeout(120_000);
  after(removeSites);

  // While the first pages are opened, while they are looked at, and later.
  for (const afterMs of [300, 1900])
    it(`after ${afterMs} ms is started again, the page is visited once more, and nothing is missing`, async function () {
      if (process.platform !== 'linux') this.skip();
      const folder = await siteOf({
        ...Object.fromEntries(
          Array.from({ length: 6 }, (_, index) => [
            `${index}.html`,
            page(`<img src="a.jpg" width="40" height="30" alt="${index}">`),
          ]),
        ),
        'a.jpg': await photo(40, 30),
      });
      const screens = ['--screen', 'phone=400x800@2,share=0.5', '--screen', 'desk=1000x800@1,share=0.5'];
      const options = ['--json', '--fresh', '--at-once', '1', '--encode', 'none', ...screens];
      const running = execa(process.execPath, [program, 'audit', folder, ...options], { reject: false });
      let killed = 0;
      while (killed === 0 && (running.exitCode ?? null) === null) {
        const [id] = await browsersOf(running.pid ?? -1);
        await new Promise((resolve) => setTimeout(resolve, id === undefined ? 20 : afterMs));
        if (id !== undefined) {
          process.kill(id, 'SIGKILL');
          killed = id;
        }
      }
      const { stdout, exitCode, stderr } = await running;
      expect(exitCode, stderr).to.equal(0);
      const run = readRun(JSON.parse(stdout));
      expect(run.incomplete).to.deep.equal([]);
      expect(run.meta.browserRestarts).to.equal(1);
      expect(run.placements.map(({ downloads }) => Object.keys(downloads).length)).to.deep.equal(
        Array(6).fill(2),
      );
    });
});
