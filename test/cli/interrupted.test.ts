import { spawn } from 'node:child_process';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { readRun } from '../../src/core/run/index.js';
import { page, photo, removeSites, siteOf } from '../support/program.js';

const program = fileURLToPath(new URL('../../dist/program/yukkuri.js', import.meta.url));

/** Starts the program and interrupts it once it says a word on standard error, so many times. */
async function interrupted(args: string[], at: RegExp, times: number) {
  const temporary = await siteOf({});
  const child = spawn(process.execPath, [program, ...args], {
    env: { ...process.env, NO_COLOR: '1', TMPDIR: temporary },
  });
  let said = '';
  let sent = 0;
  child.stderr.on('data', (data: Buffer) => {
    said += data.toString();
    if (sent === 0 && at.test(said)) {
      sent = 1;
      child.kill('SIGINT');
      for (let again = 1; again < times; again++) setTimeout(() => child.kill('SIGINT'), 100 * again);
    }
  });
  let out = '';
  child.stdout.on('data', (data: Buffer) => (out += data.toString()));
  const code = await new Promise<number | null>((resolve) => child.on('close', resolve));
  return { code, said, out, left: (await readdir(temporary)).filter((name) => !/^tsx|^node/.test(name)) };
}

describe('an interrupted audit', function () {
  this.timeout(180_000);
  after(removeSites);
  let folder = '';

  before(async () => {
    const pages = Array.from(
      { length: 30 },
      (_, index) =>
        [
          `page-${index}.html`,
          page(`<img src="a.jpg" style="width:50%" alt="${index}"><p>${'text '.repeat(300)}</p>`),
        ] as const,
    );
    folder = await siteOf({ ...Object.fromEntries(pages), 'a.jpg': await photo(1600, 1200) });
  });

  it('finishes what is open, hands out what was seen and leaves nothing behind', async () => {
    const file = join(await siteOf({}), 'run.json');
    const { code, said, left } = await interrupted(['audit', folder, '--json', file], /visits/, 1);
    expect(code, said).to.equal(130);
    expect(said).to.match(/finishing what is open/);
    const run = readRun(JSON.parse(await readFile(file, 'utf8')));
    expect(run.incomplete.some(({ why }) => why.includes('the audit was interrupted'))).to.equal(true);
    expect(run.pages).to.have.length(30);
    expect(left).to.deep.equal([]);
  });

  it('ends at once when it is interrupted twice', async () => {
    const began = Date.now();
    const { code, left } = await interrupted(['audit', folder, '--json'], /visits/, 2);
    expect(code).to.equal(130);
    expect(Date.now() - began).to.be.below(60_000);
    expect(left).to.deep.equal([]);
  });

  it('leaves no copy when a mend is interrupted', async () => {
    const elsewhere = await siteOf({});
    const { code, left } = await interrupted(
      ['mend', folder, '--to', join(elsewhere, 'copy'), '--page', '/page-1.html'],
      /files/,
      1,
    );
    expect(code).to.equal(130);
    expect(await readdir(elsewhere)).to.deep.equal([]);
    expect(left).to.deep.equal([]);
  });
});
