import { rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { expect } from 'chai';
import { KeptValues } from '../../dist/src/cache/index.js';
import { openFolder } from '../../dist/src/site/index.js';
import { PageMemory, type LookWatch } from '../../dist/src/survey/page-memory.js';
import { SiteUrls } from '../../dist/src/survey/site-urls.js';
import { removeSites, siteOf } from '../support/program.js';

/** File systems note times by a clock that ticks slowly. */
const aTick = () => sleep(40);

const look = { what: 'visit', page: '/', conditions: { width: 400 } };

/** One process: the site is opened anew, what is kept is shared. */
async function inProcess<Result>(
  folder: string,
  cache: string | undefined,
  work: (memory: PageMemory, origin: string) => Promise<Result>,
  { version = '1', fresh = false } = {},
): Promise<Result> {
  const site = await openFolder(folder);
  try {
    const urls = new SiteUrls(site.origin);
    return await work(new PageMemory(new KeptValues(cache), site, urls, version, fresh), site.origin);
  } finally {
    await site.close();
  }
}

describe('the memory of what was seen of pages', () => {
  let made = 0;
  let folder = '';
  let cache = '';

  beforeEach(async () => {
    made = 0;
    folder = await siteOf({ 'index.html': '<p>', 'a.css': 'p{}', 'b.css': 'b{}', 'a.jpg': 'one' });
    cache = await siteOf({});
    await aTick();
  });
  after(removeSites);

  /** What a look gives that asks for these addresses: how many were made when it was. */
  const seeing =
    (origin: string, ...asked: string[]) =>
    (watch: LookWatch): Promise<number> => {
      for (const address of ['/', ...asked]) watch.onAsked(origin + address);
      return Promise.resolve(++made);
    };
  const seen = (asked: string[], options: { version?: string; fresh?: boolean } = {}, what = look) =>
    inProcess(
      folder,
      cache,
      (memory, origin) => memory.remember(what, seeing(origin, ...asked), () => true),
      options,
    );

  it('gives what was seen while all that was asked for answers as it did', async () => {
    expect(await seen(['/a.css', '/a.jpg?v=1'])).to.equal(1);
    expect(await seen(['/a.css'])).to.equal(1);
    await writeFile(join(folder, 'b.css'), 'b{color:red}');
    expect(await seen([])).to.equal(1);
  });

  it('looks again once anything that was asked for answers something else, and knows both again', async () => {
    expect(await seen(['/a.css', '/a.jpg'])).to.equal(1);
    await writeFile(join(folder, 'a.jpg'), 'two');
    await aTick();
    expect(await seen(['/a.css', '/a.jpg'])).to.equal(2);
    await writeFile(join(folder, 'a.jpg'), 'one');
    expect(await seen([])).to.equal(1);
    await writeFile(join(folder, 'a.jpg'), 'two');
    expect(await seen([])).to.equal(2);
  });

  it('knows what was not there, and looks again when it comes', async () => {
    expect(await seen(['/none.jpg'])).to.equal(1);
    expect(await seen([])).to.equal(1);
    await writeFile(join(folder, 'none.jpg'), 'there');
    await aTick();
    expect(await seen(['/none.jpg'])).to.equal(2);
    await rm(join(folder, 'none.jpg'));
    expect(await seen([])).to.equal(1);
  });

  it('tells pages, conditions, and versions of program and browser apart', async () => {
    expect(await seen([])).to.equal(1);
    expect(await seen([], {}, { ...look, page: '/other' })).to.equal(2);
    expect(await seen([], {}, { ...look, conditions: { width: 401 } })).to.equal(3);
    expect(await seen([], {}, { ...look, what: 'sweep' })).to.equal(4);
    expect(await seen([], { version: '2' })).to.equal(5);
    expect(await seen([])).to.equal(1);
  });

  it('looks again when it is told to, and keeps what it sees then', async () => {
    expect(await seen([])).to.equal(1);
    expect(await seen([], { fresh: true })).to.equal(2);
    expect(await seen([])).to.equal(2);
  });

  it('keeps nothing that was seen in part, from another host, or while files changed', async () => {
    const once = (work: (watch: LookWatch, origin: string) => Promise<void>, isWhole = true) =>
      inProcess(folder, cache, (memory, origin) =>
        memory.remember(
          look,
          async (watch) => {
            watch.onAsked(`${origin}/`);
            await work(watch, origin);
            return ++made;
          },
          () => isWhole,
        ),
      );
    await once(() => Promise.resolve(), false);
    await once((watch) => Promise.resolve(watch.onAsked('http://elsewhere.example/a.jpg')));
    await once(async (watch, origin) => {
      watch.onAsked(`${origin}/a.css`);
      await writeFile(join(folder, 'a.css'), 'p{color:red}');
    });
    await aTick();
    expect(await seen([])).to.equal(4);
  });

  it('gives addresses of the site at the port where it is served now', async () => {
    const ask = (page: string) =>
      inProcess(folder, cache, async (memory, origin) => {
        const result = await memory.remember(
          { ...look, page },
          (watch) => {
            watch.onAsked(`${origin}/`);
            return Promise.resolve({ at: new Map([[`${origin}/a`, [`see ${origin}/b`]]]) });
          },
          () => true,
        );
        return { origin, result };
      });
    for (let again = 0; again < 2; again++) {
      const { origin, result } = await ask('/port');
      expect([...result.at]).to.deep.equal([[`${origin}/a`, [`see ${origin}/b`]]]);
    }
  });

  it('keeps nothing without a folder', async () => {
    cache = '';
    const ask = () =>
      inProcess(folder, undefined, (memory, origin) => memory.remember(look, seeing(origin), () => true));
    expect([await ask(), await ask()]).to.deep.equal([1, 2]);
  });
});
