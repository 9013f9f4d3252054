import { expect } from 'chai';
import { PriceList } from '../../../src/core/bytes/price-list.js';
import { glanceWidths, isEconomical } from '../../../src/core/pricing/pricing-plan.js';
import { planProbes, standardQuality } from '../../../src/core/bytes/probe-plan.js';
import { weighPicture } from '../../../src/core/bytes/weighing.js';
import type { ImageFile, PicturePrice } from '../../../src/core/run/index.js';
import { someFile } from '../../support/facts.js';

const file = (facts: Partial<ImageFile>) => someFile({ url: '/a.jpg', ...facts });
const point = (width: number, bytes: number) => ({ width, bytes, quality: 60, decibels: 12 });
const listOf = (own: ImageFile, price: Partial<PicturePrice>) =>
  new PriceList(
    new Map([[own.url, { url: own.url, content: 'photo', alike: [], formats: {}, notes: [], ...price }]]),
    new Map([[own.url, own]]),
  );

describe('the price list', () => {
  it('says what was measured, and marks what lies between as an estimate', () => {
    const list = listOf(file({}), { formats: { avif: [point(400, 10_000), point(1600, 80_000)] } });
    expect(list.equalLooks('/a.jpg', 'avif', 400)).to.deep.equal({ bytes: 10_000, quality: 60, error: 0 });
    // Half-way in the logarithm: bytes are the geometric mean, √(10,000 · 80,000) = 28,284.
    const between = list.equalLooks('/a.jpg', 'avif', 800);
    expect(between?.bytes).to.be.closeTo(28_284, 2);
    expect(between?.error).to.be.above(0);
    expect(list.equalLooks('/a.jpg', 'webp', 400)).to.equal(undefined);
  });

  it('is less sure beyond the encodes than between them, and least sure from one', () => {
    const list = listOf(file({}), {
      formats: { avif: [point(400, 10_000), point(800, 30_000)], webp: [point(400, 9000)] },
    });
    const between = list.equalLooks('/a.jpg', 'avif', 600)?.error ?? 0;
    const beyond = list.equalLooks('/a.jpg', 'avif', 1600)?.error ?? 0;
    const single = list.equalLooks('/a.jpg', 'webp', 1600)?.error ?? 0;
    expect(between).to.be.below(beyond);
    expect(beyond).to.be.below(single);
  });

  it('leaves metadata out of what a file weighs at its own size', () => {
    const own = file({ metadata: { 'camera notes': 60_000 } });
    expect(listOf(own, {}).alike('/a.jpg', 1600)).to.deep.equal({ bytes: 340_000, quality: 92, error: 0 });
  });

  it('does not run a drawing’s curve through its own size, which was never made smaller', () => {
    const own = file({
      url: '/m.png',
      format: 'png',
      lossless: true,
      quality: null,
      bytes: 39_000,
      width: 1680,
    });
    const alike = [point(420, 40_000), point(1260, 130_000)];
    const drawing = listOf(own, { content: 'graphic', alike });
    expect(drawing.alike('/m.png', 840)?.bytes).to.be.above(80_000);
    expect(drawing.alike('/m.png', 1680)?.bytes).to.equal(39_000);
  });
});

describe('the plan of encodes', () => {
  const photo = { format: 'jpeg', width: 2400, height: 1800, quality: 92, lossless: false };

  it('encodes at the widths to be made', () => {
    expect(planProbes(photo, { make: [350, 764, 1050], have: [] })).to.deep.equal([350, 764, 1050]);
  });

  it('keeps of many widths the ends and those farthest apart', () => {
    const plan = planProbes(photo, { make: [300, 310, 600, 620, 1200, 2000], have: [] });
    expect(plan).to.have.length(4);
    expect([plan[0], plan.at(-1)]).to.deep.equal([300, 2000]);
  });

  it('brackets a file’s own size from below, since its own faults would be compared there', () => {
    expect(planProbes(photo, { make: [], have: [2400] })).to.deep.equal([1200, 2160]);
    expect(planProbes({ ...photo, lossless: true }, { make: [], have: [2400] })).to.deep.equal([2400]);
  });

  it('encodes nothing larger than 6 megapixels', () => {
    const huge = { ...photo, width: 10_000, height: 5000, lossless: true };
    for (const width of planProbes(huge, { make: [9000], have: [10_000] }))
      expect(width * width * 0.5).to.be.at.most(6_000_000);
  });

  it('asks no more of a file at its own size than its own quality', () => {
    expect(standardQuality({ ...photo, quality: 60 }, 2160, 73)).to.equal(60);
    expect(standardQuality({ ...photo, quality: 60 }, 800, 73)).to.equal(73);
  });

  it('needs no more than a glance at what cannot become a finding', () => {
    const glance = [{ bytes: 50_000, width: 900 }];
    expect(isEconomical({ bytes: 60_000, width: 1000 }, glance, 0.15)).to.equal(true);
    expect(isEconomical({ bytes: 200_000, width: 1000 }, glance, 0.15)).to.equal(false);
    expect(isEconomical({ bytes: 1, width: 1000 }, [], 0.15)).to.equal(false);
  });

  it('judges what lies between two glances by both', () => {
    // In logarithms half way between 10,000 and 40,000 bytes at 400 and 1,600 px: 20,000 bytes at 800 px.
    const glances = [
      { bytes: 40_000, width: 1600 },
      { bytes: 10_000, width: 400 },
    ];
    expect(isEconomical({ bytes: 23_500, width: 800 }, glances, 0.15)).to.equal(true);
    expect(isEconomical({ bytes: 23_600, width: 800 }, glances, 0.15)).to.equal(false);
    expect(isEconomical({ bytes: 11_700, width: 400 }, glances, 0.15)).to.equal(true);
    expect(isEconomical({ bytes: 11_800, width: 400 }, glances, 0.15)).to.equal(false);
  });

  it('glances at the smallest file of a picture, and near its own size', () => {
    expect(glanceWidths(1000, [1000])).to.deep.equal([900]);
    expect(glanceWidths(1060, [360, 530, 700, 1060])).to.deep.equal([360, 954]);
    expect(glanceWidths(1060, [700, 1060])).to.deep.equal([954]);
    expect(glanceWidths(1060, [360, 700])).to.deep.equal([360, 700]);
    expect(glanceWidths(1060, [700])).to.deep.equal([700]);
    expect(glanceWidths(10, [10])).to.deep.equal([16]);
  });
});

describe('weighing a file', () => {
  const price: PicturePrice = {
    url: '/a.jpg',
    content: 'photo',
    alike: [],
    formats: {
      avif: [point(400, 9000), point(800, 26_000)],
      jpeg: [point(400, 14_000), point(800, 40_000)],
    },
    notes: [],
  };
  const limits = { trifleBytes: 4000, trifleShare: 0.15 };

  it('serves the smallest, with an old format beside it', () => {
    const { ship, economical } = weighPicture(file({}), price, [800, 400], limits);
    expect(ship.map(({ width, best, fallback }) => [width, best.format, fallback?.format])).to.deep.equal([
      [400, 'avif', 'jpeg'],
      [800, 'avif', 'jpeg'],
    ]);
    // Its own size was not asked for, so nothing is said of it.
    expect(economical).to.equal(null);
  });

  it('leaves a file alone that no encode makes worthwhile lighter', () => {
    expect(weighPicture(file({ bytes: 70_000 }), price, [1600], limits).economical).to.equal(true);
    expect(weighPicture(file({ bytes: 400_000 }), price, [1600], limits).economical).to.equal(false);
  });
});
