import { readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { cacheRoom, clearCache, keyOf, KeptValues, pruneCache } from '../../dist/src/cache/index.js';
import { removeSites, siteOf } from '../support/program.js';

describe('values kept on disk', () => {
  after(removeSites);

  it('come back as they were, whatever their kind', async () => {
    const kept = new KeptValues(await siteOf({}));
    const value = {
      map: new Map([['a', new Set([1])]]),
      far: Infinity,
      none: undefined,
      small: -0,
      list: [null],
    };
    await kept.put('a', value);
    expect(await kept.get('a')).to.deep.equal(value);
  });

  it('are as if they were not there once they are damaged', async () => {
    const folder = await siteOf({});
    const kept = new KeptValues(folder);
    await kept.put('a', 'whole');
    for (const entry of await readdir(folder, { recursive: true, withFileTypes: true }))
      if (entry.isFile() && entry.parentPath.includes('content'))
        await writeFile(join(entry.parentPath, entry.name), 'spoiled');
    expect(await kept.get('a')).to.equal(undefined);
    await kept.put('a', 'anew');
    expect(await kept.get('a')).to.equal('anew');
  });

  it('have other keys for other kinds and other things that they were made from', () => {
    const keys = [
      keyOf('visit', 'a', 1),
      keyOf('known', 'a', 1),
      keyOf('visit', 'a', 2),
      keyOf('visit', ['a', 1]),
    ];
    expect(new Set(keys).size).to.equal(4);
    expect(keyOf('visit', 'a', 1)).to.equal(keys[0]);
  });
});

/** Bytes that cannot be packed: each of these takes 50 kB. */
const noise = (seed: number) =>
  Buffer.from(
    Array.from({ length: 50_000 }, (_, index) => (Math.imul(index + seed, 2654435761) >>> 13) & 255),
  );

describe('the room that kept values take', () => {
  after(removeSites);

  it('is told by kind, and given back', async () => {
    const folder = await siteOf({});
    const kept = new KeptValues(folder);
    for (const [kind, what] of [
      ['measured', 1],
      ['measured', 2],
      ['visit', 3],
    ] as const)
      await kept.put(keyOf(kind, what), what);
    const { entries, bytes } = await cacheRoom(folder);
    expect(entries).to.deep.equal({ measured: 2, visit: 1, asked: 0, known: 0 });
    expect(bytes).to.be.above(300);
    await clearCache(folder);
    expect(await cacheRoom(folder)).to.deep.equal({
      entries: { measured: 0, visit: 0, asked: 0, known: 0 },
      bytes: 0,
    });
  });

  it('is kept to a limit: the oldest go, with their files', async () => {
    const folder = await siteOf({});
    const kept = new KeptValues(folder);
    for (let index = 0; index < 6; index++) {
      await kept.put(`visit-${index}`, noise(index * 77_777));
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
    const whole = (await cacheRoom(folder)).bytes;
    const each = whole / 6;
    expect(await pruneCache(folder, 3.5 * each)).to.equal(3);
    expect((await cacheRoom(folder)).entries.visit).to.equal(3);
    expect((await cacheRoom(folder)).bytes).to.be.below(3.6 * each);
    for (const [index, there] of [false, false, false, true, true, true].entries())
      expect((await kept.get(`visit-${index}`)) !== undefined, `${index}`).to.equal(there);
  });

  it('is given back by what was written anew', async () => {
    const folder = await siteOf({});
    const kept = new KeptValues(folder);
    for (let index = 0; index < 6; index++) await kept.put('visit-a', noise(index * 77_777));
    const whole = (await cacheRoom(folder)).bytes;
    expect(await pruneCache(folder, whole / 2)).to.equal(0);
    expect((await cacheRoom(folder)).bytes).to.be.below(whole / 5);
    expect(await kept.get('visit-a')).to.deep.equal(noise(5 * 77_777));
  });
});
