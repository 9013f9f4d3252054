import { expect } from 'chai';
import { Recent } from '../../../src/core/plan/recent.js';

describe('what was made last', () => {
  it('is made once, as long as it is among the last', () => {
    const made: string[] = [];
    const recent = new Recent<string, string>(2);
    const ask = (key: string) =>
      recent.remember(key, () => {
        made.push(key);
        return key.toUpperCase();
      });
    expect(['a', 'b', 'a', 'b'].map(ask)).to.deep.equal(['A', 'B', 'A', 'B']);
    expect(made).to.deep.equal(['a', 'b']);
    // The third lets the first go.
    expect(['c', 'b', 'a'].map(ask)).to.deep.equal(['C', 'B', 'A']);
    expect(made).to.deep.equal(['a', 'b', 'c', 'a']);
  });
});
