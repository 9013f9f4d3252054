import fc from 'fast-check';
import { expect } from 'chai';
import { PageText, TopModel } from '../../../src/core/templates/top-model.js';

/** Where an image lies below paragraphs of 24 px a line with 60 characters, 16 px apart, and other images. */
const below = (paragraphs: readonly number[], images: number) =>
  100 + paragraphs.reduce((sum, length) => sum + Math.ceil(length / 60) * 24 + 16, 0) + images;

const above = (paragraphs: readonly number[], images: number) => ({
  text: new PageText(paragraphs.map((length) => ({ heading: false, length }))),
  blocks: paragraphs.length,
  images,
});

describe('the top of an image', () => {
  it('stays where it is on all pages', () => {
    const model = TopModel.learn([1, 2, 3].map((lines) => ({ above: above([lines * 50], 0), top: 240 })));
    expect(model.topOf(above([5000], 900))).to.equal(240);
    expect(model.error).to.equal(0);
  });

  it('goes down with the lines of text and the images above it', () => {
    const pageShape = fc.tuple(
      fc.array(fc.integer({ min: 40, max: 900 }), { minLength: 1, maxLength: 5 }),
      fc.integer({ min: 0, max: 800 }),
    );
    fc.assert(
      fc.property(fc.array(pageShape, { minLength: 40, maxLength: 40 }), pageShape, (pages, other) => {
        const model = TopModel.learn(
          pages.map(([text, images]) => ({ above: above(text, images), top: below(text, images) })),
        );
        expect(model.error).to.be.lessThan(0.5);
        expect(model.topOf(above(...other))).to.be.closeTo(below(...other), 2);
      }),
      { numRuns: 20 },
    );
  });

  it('is known as exactly as the text tells it', () => {
    const lengths = [100, 180, 260, 340, 420, 500, 580, 660, 740, 820, 900, 980];
    // Half of the pages have 30 px more for no reason that the text shows.
    const model = TopModel.learn(
      lengths.map((length, index) => ({
        above: above([length], 0),
        top: below([length], 0) + (index % 2) * 30,
      })),
    );
    expect(model.error).to.be.within(10, 30);
  });
});
