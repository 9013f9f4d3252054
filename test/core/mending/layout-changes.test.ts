import { expect } from 'chai';
import { heightChanges } from '../../../src/core/mending/layout-changes.js';
import type { Run } from '../../../src/core/run/index.js';

const runOf = (documentHeight: number) =>
  ({
    pages: [{ path: '/', visits: [{ screen: 'phone', state: 'complete', documentHeight }] }],
  }) as unknown as Run;

const changes = (before: number, after: number, boxWasTheFault = false) =>
  heightChanges(runOf(before), runOf(after), new Map([['/', boxWasTheFault]])).map(({ says }) => says);

describe('heights of mended pages', () => {
  it('may be off by what the whole pixels of many files add up to: two thousandths of them', () => {
    expect(changes(8000, 8016)).to.deep.equal([]);
    expect(changes(8000, 8017)).to.deep.equal(['it is 8017 px high instead of 8000']);
    expect(changes(300, 301)).to.deep.equal([]);
    expect(changes(300, 302)).to.deep.equal(['it is 302 px high instead of 300']);
  });

  it('do not count where the box of an image was the fault', () => {
    expect(changes(8000, 9000, true)).to.deep.equal([]);
  });
});
