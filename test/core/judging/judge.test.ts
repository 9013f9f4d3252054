import { expect } from 'chai';
import { PriceList } from '../../../src/core/bytes/price-list.js';
import { totalsOf } from '../../../src/core/bytes/totals.js';
import { checks } from '../../../src/core/checks/index.js';
import type { World } from '../../../src/core/judging/facts.js';
import { writeFixes } from '../../../src/core/judging/fixes.js';
import { judge } from '../../../src/core/judging/judge.js';
import type { PicturePrice } from '../../../src/core/run/index.js';
import { oneScreen, shownOn, someFacts, someFile, somePlacement } from '../../support/facts.js';
import { generatedSite } from '../../support/generated-site.js';

const byteChecks = checks.filter(({ cut }) => cut !== null);

/** Images of one template, each a JPEG as wide as its slot, and what each weighs at equal looks. */
function gallery(list: readonly { bytes: number; light: number }[]): World {
  const files = list.map(({ bytes }, index) =>
    someFile({ url: `/${index}.jpg`, width: 800, height: 600, bytes, quality: 95 }),
  );
  const placements = list.map(({ bytes }, index) =>
    somePlacement({
      id: `/#${index}`,
      markup: `<img src="${index}.jpg" alt="">`,
      template: 'body > .gallery > img',
      candidates: [`/${index}.jpg`],
      ...shownOn(oneScreen, { url: `/${index}.jpg`, bytes, slot: [800, 600], file: [800, 600] }),
    }),
  );
  const prices = list.map(({ light }, index): [string, PicturePrice] => [
    `/${index}.jpg`,
    {
      url: `/${index}.jpg`,
      content: 'photo',
      alike: [],
      formats: { jpeg: [{ width: 800, bytes: light, quality: 73, decibels: 12 }] },
      notes: [],
    },
  ]);
  const facts = someFacts({ screens: [oneScreen], placements, files });
  return {
    ...facts,
    prices: new PriceList(new Map(prices), facts.files),
    wishes: { ...facts.wishes, formats: [] },
  };
}

const savedBy = (world: World) =>
  writeFixes(judge(byteChecks, world)).fixes.map(({ saves }) => saves.expected);

describe('the judgement', () => {
  it('counts what is not worth a reader’s time, and takes nothing for it', () => {
    // 14 % of the one; under 4 kB of the other, and together 18 % of all would be enough: so each in a template of its own.
    const world = gallery([
      { bytes: 100_000, light: 86_000 },
      { bytes: 5000, light: 1100 },
    ]);
    const placements = world.placements.map((placement, index) => ({ ...placement, template: `t${index}` }));
    const judgement = judge(byteChecks, {
      ...world,
      placements: placements.map((each, index) => ({ ...each, template: 'ab'[index] ?? '' })),
    });
    const { findings, ledger } = writeFixes(judgement);
    expect(findings).to.deep.equal([]);
    expect(judgement.trifles).to.deep.equal({ findings: 2, bytes: 14_000 + 3900 });
    for (const { delivered, remains } of ledger) expect(remains).to.equal(delivered);
  });

  it('does not take many small savings of one template for trifles', () => {
    const each = { bytes: 8000, light: 4400 };
    expect(savedBy(gallery([each]))).to.deep.equal([]);
    expect(savedBy(gallery(Array.from({ length: 40 }, () => each)))).to.deep.equal([40 * 3600]);
  });

  it('saves with all fixes together what the totals fall by', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const { world } = generatedSite(seed);
      const { fixes, ledger } = writeFixes(judge(checks, world));
      const { average } = totalsOf(world.pages, world.screens, ledger);
      const saved = fixes.reduce((sum, { saves }) => sum + saves.expected, 0);
      expect(saved, `${seed}`).to.be.closeTo(average.expected - average.expectedAfter, fixes.length + 2);
    }
  });

  it('is the same in whatever order the images come', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const { world } = generatedSite(seed);
      const sums = (placements: World['placements']) =>
        writeFixes(judge(checks, { ...world, placements }))
          .ledger.map(({ page, screen, url, expected }) => JSON.stringify([page, screen, url, expected]))
          .sort();
      expect(sums([...world.placements].reverse()), `${seed}`).to.deep.equal(sums(world.placements));
    }
  });
});
