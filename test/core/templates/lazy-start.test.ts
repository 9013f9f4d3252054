import { expect } from 'chai';
import { LazyStart, type SeenStart } from '../../../src/core/templates/lazy-start.js';

const first = (y: number): SeenStart => ({ y, began: 'first-view', scrollDepth: 0 });
const later = (y: number, scrollDepth: number): SeenStart => ({ y, began: 'scrolled', scrollDepth });

describe('the begin of lazy images', () => {
  const starts = new LazyStart([first(300), first(1500), later(2600, 800), later(3500, 1600)]);

  it('is that of the one that lies nearest', () => {
    expect(starts.startAt(400)).to.include({ began: 'first-view', scrollDepth: 0 });
    expect(starts.startAt(2500)).to.include({ began: 'scrolled', scrollDepth: 800 });
    expect(starts.startAt(9000)).to.include({ scrollDepth: 1600 });
  });

  it('is not known where none was lazy', () => {
    expect(new LazyStart([]).startAt(500)).to.equal(undefined);
  });
});
