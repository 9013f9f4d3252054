import { expect } from 'chai';
import { KeptValues } from '../../dist/src/cache/index.js';
import { Measurer, MeasuredCache, measureOrder, unknownFile } from '../../dist/src/images/index.js';

const file = { ...unknownFile('/a', 1, 'a', ''), width: 4000, height: 3000, format: 'jpeg' };
const order = (width: number) =>
  measureOrder(file, { widths: [width], looks: 73, formats: [], drawings: [] });

describe('measurements of large pictures', () => {
  it('are made one after the other where they are too large together', async () => {
    let [now, most] = [0, 0];
    const measurer = new Measurer(new MeasuredCache(new KeptValues(undefined)), async () => {
      most = Math.max(most, ++now);
      await new Promise((resolve) => setTimeout(resolve, 20));
      now--;
      return { content: 'photo', alike: [], formats: {}, notes: [] };
    });
    const measure = (width: number) =>
      Promise.all(
        ['a', 'b', 'c'].map((hash) =>
          measurer.measure(hash, order(width), () => Promise.resolve(Buffer.alloc(1))),
        ),
      );
    // 2,400 px across are 4.3 megapixels, of which one at a time is made; 800 px are half a megapixel.
    await measure(2400);
    expect(most).to.equal(1);
    most = 0;
    await measure(800);
    expect(most).to.equal(3);
  });
});
