import { expect } from 'chai';
import fc from 'fast-check';
import { PriceList } from '../../../src/core/bytes/price-list.js';
import { checks } from '../../../src/core/checks/index.js';
import { factsOf, type World } from '../../../src/core/judging/facts.js';
import { rankFixes } from '../../../src/core/judging/fixes.js';
import { judge } from '../../../src/core/judging/judge.js';
import { wantedPrices } from '../../../src/core/pricing/pricing-plan.js';
import { isSettled } from '../../../src/core/pricing/settled.js';
import type { PicturePrice } from '../../../src/core/run/index.js';
import { oneScreen, shownOn, someFacts, someFile, somePlacement } from '../../support/facts.js';

interface Picture {
  /** Which template shows it. */
  template: number;
  bytes: number;
  /** Bytes at equal looks as a share of its own. */
  share: number;
}

const pictures = fc.array(
  fc.record({
    template: fc.integer({ min: 0, max: 5 }),
    bytes: fc.integer({ min: 5000, max: 900_000 }),
    share: fc.double({ min: 0.05, max: 1.2, noNaN: true }),
  }),
  { minLength: 2, maxLength: 14 },
);

/** A page that shows lossless photographs, each as wide as its slot: what a lossy format saves is the only question. */
function build(list: readonly Picture[]): { facts: World; prices: Map<string, PicturePrice> } {
  const prices = new Map<string, PicturePrice>();
  const files = list.map(({ bytes }, index) =>
    someFile({
      url: `/${index}.png`,
      format: 'png',
      lossless: true,
      quality: null,
      width: 800,
      height: 600,
      bytes,
    }),
  );
  const placements = list.map(({ template }, index) => {
    const url = `/${index}.png`;
    return somePlacement({
      id: `/#${index}`,
      template: `body > .t${template}`,
      candidates: [url],
      markup: `<img src="${index}.png" alt="">`,
      ...shownOn(oneScreen, { url, bytes: list[index]?.bytes ?? 0, slot: [800, 600], file: [800, 600] }),
    });
  });
  list.forEach(({ bytes, share }, index) => {
    const url = `/${index}.png`;
    const point = { width: 800, bytes: Math.max(1, Math.round(bytes * share)), quality: 73, decibels: 12 };
    prices.set(url, { url, content: 'photo', alike: [], formats: { jpeg: [point] }, notes: [] });
  });
  return { facts: someFacts({ screens: [oneScreen], placements, files }), prices };
}

const withPrices = (facts: World, prices: ReadonlyMap<string, PicturePrice>): World => ({
  ...facts,
  prices: new PriceList(prices, facts.files, false),
});

describe('measuring until the order of the first fixes is settled', () => {
  it('never stops before the first fixes are those of measuring everything', () => {
    let stopped = 0;
    fc.assert(
      fc.property(
        pictures,
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 13 }),
        (list, first, measured) => {
          const { facts, prices } = build(list);
          const wanted = wantedPrices(factsOf(facts));
          const known = new Map(
            wanted.slice(0, measured).map(({ file }) => [file.url, prices.get(file.url) as PicturePrice]),
          );
          const partly = withPrices(facts, known);
          if (!isSettled(partly, wanted.slice(measured), first)) return;
          stopped++;
          const whole = withPrices(facts, prices);
          const order = (of: World) =>
            rankFixes(judge(checks, of))
              .filter(({ expected }) => expected > 0)
              .slice(0, first);
          expect(order(partly)).to.deep.equal(order(whole));
        },
      ),
      { numRuns: 400 },
    );
    // A rule that never stops would prove nothing.
    expect(stopped).to.be.above(20);
  });

  it('goes on while a picture that is left could lift what is a trifle without it', () => {
    const { facts, prices } = build([
      { template: 0, bytes: 5264, share: 0.05 },
      // Saves 14.9 % of its bytes, which is a trifle; with the next one it is 18 % of both, …
      { template: 1, bytes: 119_887, share: 0.851 },
      { template: 1, bytes: 5000, share: 0.05 },
      { template: 2, bytes: 5000, share: 0.05 },
    ]);
    const wanted = wantedPrices(factsOf(facts));
    const known = wanted.slice(0, 2).map(({ file }) => file.url);
    expect(known).to.deep.equal(['/1.png', '/0.png']);
    // … so 22,000 bytes, more than the 5,000 of the fix that is first by now.
    const partly = withPrices(facts, new Map(known.map((url) => [url, prices.get(url) as PicturePrice])));
    expect(isSettled(partly, wanted.slice(2), 1)).to.equal(false);
  });

  it('goes on while a picture that is left could still rise among them', () => {
    const { facts, prices } = build([
      { template: 0, bytes: 100_000, share: 0.1 },
      { template: 1, bytes: 95_000, share: 0.1 },
      { template: 2, bytes: 20_000, share: 0.1 },
    ]);
    const wanted = wantedPrices(factsOf(facts));
    const known = (count: number) =>
      withPrices(
        facts,
        new Map(wanted.slice(0, count).map(({ file }) => [file.url, prices.get(file.url) as PicturePrice])),
      );
    // The first saves 90,000 bytes; the second could save 95,000.
    expect(isSettled(known(1), wanted.slice(1), 1)).to.equal(false);
    expect(isSettled(known(2), wanted.slice(2), 1)).to.equal(true);
    // The second fix saves 85,500 bytes, and the third cannot save more than 20,000.
    expect(isSettled(known(2), wanted.slice(2), 2)).to.equal(true);
    expect(isSettled(known(2), wanted.slice(2), 3)).to.equal(false);
  });
});

describe('the pictures worth pricing', () => {
  it('come by the bytes at stake, without those of which no more than a trifle is delivered', () => {
    const { facts } = build([
      { template: 0, bytes: 30_000, share: 1 },
      { template: 0, bytes: 1900, share: 1 },
      { template: 1, bytes: 80_000, share: 1 },
    ]);
    expect(
      wantedPrices(factsOf(facts)).map(({ file, stake, templates }) => [file.url, stake, templates]),
    ).to.deep.equal([
      ['/2.png', 80_000, ['body > .t1']],
      ['/0.png', 30_000, ['body > .t0']],
    ]);
  });

  it('are asked for once, however many images show them', () => {
    const { facts } = build([{ template: 0, bytes: 30_000, share: 1 }]);
    const [placement] = facts.placements;
    if (!placement) throw new Error('no placement');
    const twice = {
      ...facts,
      placements: [placement, { ...placement, id: '/#9', template: 'body > .other' }],
    };
    const [want, ...more] = wantedPrices(factsOf(twice));
    expect(more).to.deep.equal([]);
    expect(want?.stake).to.equal(30_000);
    expect(want?.templates).to.deep.equal(['body > .other', 'body > .t0']);
  });
});
