import { expect } from 'chai';
import { estimatedPictures, joinPrices } from '../../../src/core/pricing/estimated-files.js';
import type { FileToMake, PicturePrice } from '../../../src/core/run/index.js';
import { someFile } from '../../support/facts.js';

const made = (facts: Partial<FileToMake>): FileToMake => ({
  name: '/a-320.avif',
  from: '/a.jpg',
  recipe: 'equal-looks',
  width: 320,
  format: 'avif',
  bytes: 9000,
  quality: 55,
  error: 0.12,
  ...facts,
});

const priced: PicturePrice = {
  url: '/a.jpg',
  content: 'photo',
  alike: [{ width: 800, bytes: 40_000, quality: 92, decibels: null }],
  formats: {},
  notes: [],
};
const prices = new Map([['/a.jpg', priced]]);
const files = new Map([['/a.jpg', someFile({ url: '/a.jpg', width: 1600, height: 1200 })]]);
const of = (...list: Partial<FileToMake>[]) => estimatedPictures([{ files: list.map(made) }], prices, files);

describe('the files of fixes whose bytes are estimates', () => {
  it('are encoded at their widths, each once', () => {
    expect(
      of({ width: 640 }, { width: 320 }, { width: 320, recipe: 'resized', format: 'jpeg' }),
    ).to.deep.equal([{ url: '/a.jpg', widths: [320, 640], settings: [] }]);
  });

  it('near the picture’s own size with the setting of a smaller version: there it would be compared with its own faults', () => {
    // 1,440 px are nine tenths of 1,600.
    expect(
      of({ width: 1440 }, { width: 1441 }, { width: 1500, recipe: 'resized', format: 'jpeg', quality: 92 }),
    ).to.deep.equal([
      {
        url: '/a.jpg',
        widths: [1440],
        settings: [
          { recipe: 'equal-looks', format: 'avif', width: 1441, quality: 55 },
          { recipe: 'resized', format: 'jpeg', width: 1500, quality: 92 },
        ],
      },
    ]);
  });

  it('have the price of equal looks where the picture’s file tells no setting, near its own size too', () => {
    const untold = new Map([['/a.jpg', { ...priced, alike: [] }]]);
    expect(
      estimatedPictures([{ files: [made({ width: 1500, recipe: 'resized' })] }], untold, files),
    ).to.deep.equal([
      {
        url: '/a.jpg',
        widths: [],
        settings: [{ recipe: 'equal-looks', format: 'avif', width: 1500, quality: 55 }],
      },
    ]);
  });

  it('are not those that were measured, that are made otherwise, or of pictures that nobody measured', () => {
    expect(of({ error: 0 }, { recipe: 'bare' }, { recipe: 'cropped' }, { from: '/b.jpg' })).to.deep.equal([]);
  });

  it('nor any of more pixels than are ever encoded', () => {
    // 2,900 × 2,175 px are 6.3 megapixels: too many to be compared, and few enough to be encoded once.
    const large = new Map([['/a.jpg', someFile({ url: '/a.jpg', width: 4000, height: 3000 })]]);
    expect(estimatedPictures([{ files: [made({ width: 2900 })] }], prices, large)).to.deep.equal([
      {
        url: '/a.jpg',
        widths: [],
        settings: [{ recipe: 'equal-looks', format: 'avif', width: 2900, quality: 55 }],
      },
    ]);
    // At its own size there is nothing to look for: 12 and 48 megapixels are encoded once, 75 only as a format that takes less memory.
    const settings = (width: number, height: number, format: string) =>
      estimatedPictures(
        [{ files: [made({ width, format, quality: 60 })] }],
        prices,
        new Map([['/a.jpg', someFile({ url: '/a.jpg', width, height })]]),
      ).flatMap((each) => each.settings.map((setting) => [setting.width, setting.quality]));
    expect(settings(4000, 3000, 'avif')).to.deep.equal([[4000, 60]]);
    expect(settings(8000, 6000, 'avif')).to.deep.equal([[8000, 60]]);
    expect(settings(10000, 7500, 'avif')).to.deep.equal([]);
    expect(settings(10000, 7500, 'jpeg')).to.deep.equal([[10000, 60]]);
    expect(settings(12000, 9000, 'jpeg')).to.deep.equal([]);
  });
});

describe('two measurements of a picture', () => {
  const point = (width: number, bytes: number) => ({ width, bytes, quality: 50, decibels: 16 });

  it('are one, in which the first counts where both know a width', () => {
    const joined = joinPrices(
      { ...priced, alike: [point(800, 50)], formats: { avif: [point(400, 20), point(800, 30)] } },
      {
        alike: [point(400, 25)],
        formats: { avif: [point(400, 99), point(600, 25)], webp: [point(600, 27)] },
      },
    );
    expect(joined.alike.map(({ width }) => width)).to.deep.equal([400, 800]);
    expect(joined.formats['avif']?.map(({ width, bytes }) => [width, bytes])).to.deep.equal([
      [400, 20],
      [600, 25],
      [800, 30],
    ]);
    expect(joined.formats['webp']).to.have.length(1);
  });
});
