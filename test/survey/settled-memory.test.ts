import { expect } from 'chai';
import { KeptValues } from '../../dist/src/cache/index.js';
import { SettledMemory } from '../../dist/src/survey/settled-memory.js';
import { removeSites, siteOf } from '../support/program.js';

type Parts = ConstructorParameters<typeof SettledMemory>;

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

describe('the memory of whether the first fixes are settled', () => {
  after(removeSites);

  it('asks once for the same world, prices and pictures left, and again for others', async () => {
    const kept = new KeptValues(await siteOf({}));
    let asked = 0;
    const ask = (change: object, prices: object[] = [], answer: boolean | undefined = true) => {
      const context = { kept, memory: { version: '1' }, options: {} } as unknown as Parts[0];
      return new SettledMemory(context, worldWith(change)).remember(prices as never, [], () => {
        asked++;
        return answer;
      });
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
  });

  it('keeps nothing of a judgement that failed', async () => {
    const context = { kept: new KeptValues(await siteOf({})), memory: { version: '1' }, options: {} };
    const memory = new SettledMemory(context as unknown as Parts[0], worldWith({}));
    expect(await memory.remember([], [], () => undefined)).to.equal(false);
    expect(await memory.remember([], [], () => true)).to.equal(true);
  });
});
