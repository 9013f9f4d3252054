import { spawn } from 'node:child_process';
import { mkdir, mkdtemp, readdir, rm, symlink } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { cacheRoom } from '../../dist/src/cache/index.js';
import { readRun, type Run } from '../../src/core/run/index.js';
import { processesLeft } from '../support/processes.js';
import { page, photo, removeSites, siteOf } from '../support/program.js';

const program = fileURLToPath(new URL('../../dist/program/yukkuri.js', import.meta.url));

/** At so many points an audit is killed; many more by "npm run hostile". */
const whole = process.env['YUKKURI_HOSTILE'] === 'all';
const [points, pageCount] = whole ? [50, 20] : [1, 8];

/** A home of its own for what is kept, with the browser that is unpacked already, and a place for temporary files. */
async function newHome(): Promise<{ cache: string; temporary: string }> {
  const cache = await mkdtemp(join(tmpdir(), 'yukkuri-resumed-'));
  await mkdir(join(cache, 'yukkuri'));
  await mkdir(join(cache, 'tmp'));
  const known = join(process.env['XDG_CACHE_HOME'] ?? '', 'yukkuri');
  for (const name of await readdir(known).catch(() => []))
    if (name.startsWith('chromium-')) await symlink(join(known, name), join(cache, 'yukkuri', name));
  return { cache, temporary: join(cache, 'tmp') };
}

interface Ended {
  run: Run | undefined;
  tookMs: number;
}

/** Audits a folder; kills the program with all that stands in its process group after some time, if told to. */
async function auditIn(
  { cache, temporary }: { cache: string; temporary: string },
  args: string[],
  killAfterMs?: number,
): Promise<Ended> {
  const began = Date.now();
  const child = spawn(process.execPath, [program, 'audit', ...args, '--json'], {
    env: { ...process.env, NO_COLOR: '1', XDG_CACHE_HOME: cache, TMPDIR: temporary },
    detached: true,
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  let out = '';
  child.stdout.on('data', (data: Buffer) => (out += data.toString()));
  const { pid = 0 } = child;
  const timer =
    killAfterMs === undefined ? undefined : setTimeout(() => process.kill(-pid, 'SIGKILL'), killAfterMs);
  const code = await new Promise<number | null>((resolve) => child.on('close', resolve));
  clearTimeout(timer);
  return { run: code === 0 ? readRun(JSON.parse(out)) : undefined, tookMs: Date.now() - began };
}

const withoutMeta = ({ meta: _, ...run }: Run) => JSON.stringify(run);

describe('an audit that is killed', function () {
  this.timeout(600_000 + points * 60_000);
  let args: string[] = [];
  let whole: Run;
  let tookMs = 0;

  before(async function () {
    if (process.platform !== 'linux') this.skip();
    const pages = Array.from({ length: pageCount }, (_, index) => [
      `page-${index}.html`,
      page(
        `<img src="${index % 2 === 0 ? 'a' : 'b'}.jpg" srcset="a.jpg 900w" style="width:${40 + index}%" alt="${index}"><p>${'text '.repeat(200)}</p><script>document.title = 'scripted'</script>`,
      ),
    ]);
    const folder = await siteOf({
      ...Object.fromEntries(pages),
      'a.jpg': await photo(900, 600),
      'b.jpg': await photo(800, 600),
    });
    args = [folder, '--screen', 'phone=400x800@2,share=0.5', '--screen', 'desk=1000x800@1,share=0.5'];
    const home = await newHome();
    const ended = await auditIn(home, args);
    if (!ended.run) throw new Error('the audit does not end');
    [whole, tookMs] = [ended.run, ended.tookMs];
    await rm(home.cache, { recursive: true, force: true });
  });
  after(removeSites);

  for (let point = 1; point <= points; point++)
    it(`at point ${point} of ${points} goes on where it stopped, and leaves no process`, async () => {
      const home = await newHome();
      const killed = await auditIn(home, args, (tookMs * point) / (points + 1));
      expect(await processesLeft(home.temporary)).to.deep.equal([]);
      const { entries } = await cacheRoom(join(home.cache, 'yukkuri', 'measured'));
      const { run } = killed.run ? killed : await auditIn(home, args);
      if (!run) throw new Error('the audit does not end');
      expect(withoutMeta(run)).to.equal(withoutMeta(whole));
      const looks = Object.values(run.meta.looks ?? {});
      // What was kept is used, and all of it: a look that had ended, with the list of what it asked for, is not made again.
      if (!killed.run)
        expect(looks.reduce((sum, { remembered }) => sum + remembered, 0)).to.equal(entries.asked);
      expect(looks.reduce((sum, { made, remembered }) => sum + made + remembered, 0)).to.equal(4 * pageCount);
      await rm(home.cache, { recursive: true, force: true });
    });
});
