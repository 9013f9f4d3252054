import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import cacache from 'cacache';
import { expect } from 'chai';
import { KeptValues } from '../../dist/src/cache/index.js';
import { MeasuredCache } from '../../dist/src/images/index.js';
import { removeSites, siteOf } from '../support/program.js';

const cacheIn = (folder: string | undefined) => new MeasuredCache(new KeptValues(folder));

const isNumber = (value: unknown): value is number => typeof value === 'number';

describe('the cache of measurements', () => {
  after(removeSites);

  it('measures once, and again for another content or another recipe', async () => {
    const folder = await siteOf({});
    let measured = 0;
    const ask = (hash: string, recipe: object) =>
      cacheIn(folder).remember(hash, recipe, isNumber, () => Promise.resolve(++measured));
    expect(await ask('a', { width: 1 })).to.equal(1);
    expect(await ask('a', { width: 1 })).to.equal(1);
    expect(await ask('b', { width: 1 })).to.equal(2);
    expect(await ask('a', { width: 2 })).to.equal(3);
  });

  it('measures anew what other encoders have measured', async () => {
    const folder = await siteOf({});
    const ask = (versions: string, value: number) =>
      new MeasuredCache(new KeptValues(folder), versions).remember('a', {}, isNumber, () =>
        Promise.resolve(value),
      );
    expect(await ask('encoder 1', 1)).to.equal(1);
    expect(await ask('encoder 2', 2)).to.equal(2);
    expect(await ask('encoder 1', 3)).to.equal(1);
  });

  it('measures anew what is damaged on disk', async () => {
    const folder = await siteOf({});
    const cache = cacheIn(folder);
    await cache.remember('a', {}, isNumber, () => Promise.resolve(5));
    const names = await readdir(folder, { recursive: true, withFileTypes: true });
    for (const entry of names) {
      const path = join(entry.parentPath, entry.name);
      if (entry.isFile() && path.includes('content')) await writeFile(path, 'spoiled');
    }
    expect(await cache.remember('a', {}, isNumber, () => Promise.resolve(6))).to.equal(6);
  });

  it('measures anew what is not of the right kind', async () => {
    const folder = await siteOf({});
    const cache = cacheIn(folder);
    await cache.remember('a', {}, isNumber, () => Promise.resolve(5));
    for (const key of Object.keys(await cacache.ls(folder))) await new KeptValues(folder).put(key, 'five');
    expect(await cache.remember('a', {}, isNumber, () => Promise.resolve(7))).to.equal(7);
  });

  it('is shared by several at once', async () => {
    const folder = await siteOf({});
    const answers = await Promise.all(
      Array.from({ length: 20 }, (_, index) =>
        cacheIn(folder).remember(`${index % 4}`, {}, isNumber, () => Promise.resolve(index % 4)),
      ),
    );
    answers.forEach((answer, index) => expect(answer).to.equal(index % 4));
  });

  it('costs nothing but time where it cannot be written, and keeps nothing without a folder', async () => {
    const folder = await siteOf({ file: 'in the way' });
    for (const place of [join(folder, 'file'), undefined]) {
      const cache = cacheIn(place);
      for (const answer of [1, 2])
        expect(await cache.remember('a', {}, isNumber, () => Promise.resolve(answer))).to.equal(answer);
    }
    expect(await readFile(join(folder, 'file'), 'utf8')).to.equal('in the way');
  });
});
