import { expect } from 'chai';
import { KeptValues } from '../../dist/src/cache/index.js';
import { JudgedMemory } from '../../dist/src/survey/judged-memory.js';
import type { PicturePrice } from '../../dist/src/core/run/index.js';
import { removeSites, siteOf } from '../support/program.js';

type Parts = ConstructorParameters<typeof JudgedMemory>;

/** As much of a world as a judgement is told apart by. */
const worldWith = (change: object): Parts[1] =>
  ({
    screens: [{ name: 'phone' }],
    pages: [{ path: '/' }],
    placements: [{ id: '/#1' }],
    files: new Map(),
    twins: new Map(),
    sweeps: new Map(),
    names: new Set(['/a.jpg']),
    wishes: { sharpness: Number.POSITIVE_INFINITY },
    reach: [],
    lazyDistance: 1250,
    ...change,
  }) as unknown as Parts[1];

const isBoolean = (value: unknown): value is boolean => typeof value === 'boolean';

const priced = (prices: readonly object[]) =>
  new Map(prices.map((price, index) => [String(index), price])) as unknown as Map<string, PicturePrice>;

describe('the memory of what follows from judging the whole site', () => {
  after(removeSites);

  it('asks once for the same question, world and prices, and again for others', async () => {
    const kept = new KeptValues(await siteOf({}));
    let asked = 0;
    const ask = (
      change: object,
      prices: object[] = [],
      answer: boolean | undefined = true,
      question: unknown[] = ['settled', []],
    ) => {
      const context = { kept, memory: { version: '1' }, options: {} } as unknown as Parts[0];
      return new JudgedMemory(context, worldWith(change)).remember(
        question,
        priced(prices),
        isBoolean,
        () => {
          asked++;
          return answer;
        },
      );
    };
    expect(await ask({})).to.equal(true);
    expect(await ask({}, [], false)).to.equal(true);
    expect(asked).to.equal(1);
    expect(await ask({}, [{ url: '/a.jpg' }], false)).to.equal(false);
    for (const change of [
      { placements: [{ id: '/#2' }] },
      { pages: [{ path: '/other' }] },
      { files: new Map([['/a.jpg', { bytes: 1 }]]) },
      { wishes: { sharpness: 2 } },
      { names: new Set(['/b.jpg']) },
      { lazyDistance: 2500 },
    ])
      expect(await ask(change, [], false), JSON.stringify(change)).to.equal(false);
    expect(asked).to.equal(8);
    expect(await ask({}, [], false, ['settled', [['/b.jpg', 9]]])).to.equal(false);
    expect(await ask({}, [], false, ['estimates'])).to.equal(false);
    expect(asked).to.equal(10);
  });

  it('asks once whatever the order in which files were read', async () => {
    const kept = new KeptValues(await siteOf({}));
    const files = ['/a.jpg', '/b.jpg', '/c.png'].map((url) => [url, { url }] as const);
    const ask = (list: typeof files, answer: boolean) => {
      const context = { kept, memory: { version: '1' }, options: {} } as unknown as Parts[0];
      const world = worldWith({ files: new Map(list) });
      return new JudgedMemory(context, world).remember(['settled'], priced([]), isBoolean, () => answer);
    };
    expect(await ask(files, true)).to.equal(true);
    expect(await ask([...files].reverse(), false)).to.equal(true);
  });

  it('keeps nothing of a judgement that failed', async () => {
    const context = { kept: new KeptValues(await siteOf({})), memory: { version: '1' }, options: {} };
    const memory = new JudgedMemory(context as unknown as Parts[0], worldWith({}));
    const ask = (answer: boolean | undefined) =>
      memory.remember(['settled'], priced([]), isBoolean, () => answer);
    expect(await ask(undefined)).to.equal(undefined);
    expect(await ask(true)).to.equal(true);
  });
});
