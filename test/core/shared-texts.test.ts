import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { expect } from 'chai';
import { SharedTexts } from '../../src/core/shared-texts.js';

setFlagsFromString('--expose-gc');
const collectGarbage = runInNewContext('gc') as () => void;

/** Memory that is in use, bytes. */
function used(): number {
  collectGarbage();
  return process.memoryUsage().heapUsed;
}

describe('shared texts', () => {
  it('stand in the place of those of lists and objects, and say the same', () => {
    const texts = new SharedTexts();
    const value = () => ({
      name: 'picture',
      list: ['a', 1, null, undefined, { deep: ['picture', { more: 'ünïcode \ud800 \u0000"' }] }],
      '': true,
    });
    expect(texts.shareIn(value())).to.deep.equal(value());
    expect(texts.shareIn('picture')).to.equal('picture');
    expect(texts.shareIn(null)).to.equal(null);
    const long = 'data:image/png;base64,'.padEnd(100_000, 'A');
    expect(texts.shareIn([long])).to.deep.equal([long]);
  });

  it('leave alone what is no plain object, and names', () => {
    const texts = new SharedTexts();
    const value = { map: new Map([['a', 'b']]), when: new Date(0), bytes: new Uint8Array([1, 2]) };
    const { map, when, bytes } = texts.shareIn(value);
    expect(map).to.equal(value.map);
    expect([...map]).to.deep.equal([['a', 'b']]);
    expect(when.getTime()).to.equal(0);
    expect([...bytes]).to.deep.equal([1, 2]);
  });

  it('let a page go of which only a piece is kept', function () {
    this.timeout(20_000);
    const texts = new SharedTexts();
    const pieces: string[] = [];
    const before = used();
    // Two hundred pages of a megabyte, and twenty characters of each.
    for (let index = 0; index < 200; index++) {
      const page = Buffer.alloc(1_000_000, `page ${index} `).toString('latin1');
      pieces.push(texts.of(page.slice(500_000, 500_020)));
    }
    expect(pieces).to.have.length(200);
    expect(used() - before).to.be.below(20_000_000);
  });
});
