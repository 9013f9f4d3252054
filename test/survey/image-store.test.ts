import { expect } from 'chai';
import { KeptValues } from '../../dist/src/cache/index.js';
import { MeasuredCache } from '../../dist/src/images/index.js';
import { ImageStore } from '../../dist/src/survey/image-store.js';
import { removeSites, siteOf } from '../support/program.js';

type Parts = ConstructorParameters<typeof ImageStore>;

const isNumber = (value: unknown): value is number => typeof value === 'number';

describe('what follows from the content of an image file', () => {
  after(removeSites);

  it('is made once for each content, by later audits too, and each time where nobody knows the content', async () => {
    const cache = new MeasuredCache(new KeptValues(await siteOf({})), '1');
    const contents: Record<string, string> = { 'a.jpg': 'one', 'copy.jpg': 'one', 'b.jpg': 'another' };
    let made = 0;
    const lengthOf = (file: string, recipe: string, hasHash = true) => {
      const site = {
        hashOf: async () => (hasHash ? contents[file] : undefined),
        read: async () => Buffer.from(contents[file] ?? ''),
      };
      const store = new ImageStore(site as unknown as Parts[0], {} as Parts[1], cache, {} as Parts[3]);
      return store.once(file, recipe, isNumber, async ({ length }) => {
        made++;
        return length;
      });
    };
    expect(await lengthOf('a.jpg', 'length')).to.equal(3);
    expect(await lengthOf('copy.jpg', 'length')).to.equal(3);
    expect(made).to.equal(1);
    expect(await lengthOf('b.jpg', 'length')).to.equal(7);
    expect(await lengthOf('a.jpg', 'other')).to.equal(3);
    expect(made).to.equal(3);
    await lengthOf('a.jpg', 'length', false);
    await lengthOf('a.jpg', 'length', false);
    expect(made).to.equal(5);
  });
});
