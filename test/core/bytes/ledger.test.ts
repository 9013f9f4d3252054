import { expect } from 'chai';
import fc from 'fast-check';
import { cutOrder, shareOutSavings, type Claim } from '../../../src/core/bytes/ledger.js';

const claim = fc.record({
  kind: fc.constantFrom(...cutOrder),
  bytes: fc.integer({ min: 0, max: 2_000_000 }),
  reachAfter: fc.double({ min: 0, max: 1, noNaN: true }),
});

describe('the ledger', () => {
  it('takes each saving from what the one before left', () => {
    const claims: Claim[] = [
      { kind: 'later', bytes: 0, reachAfter: 0.5 },
      { kind: 'fewer-pixels', bytes: 800 },
      { kind: 'better-encoding', bytes: 100 },
    ];
    expect(shareOutSavings({ bytes: 1000, reach: 1, inFirstView: true }, claims)).to.deep.equal([
      // 100 bytes remain, and half of the visits do not fetch them.
      { whole: 0, firstView: 100, expected: 50 },
      { whole: 800, firstView: 800, expected: 800 },
      { whole: 100, firstView: 100, expected: 100 },
    ]);
  });

  it('counts a download that begins after scrolling by its reach', () => {
    const [taken] = shareOutSavings({ bytes: 1000, reach: 0.4, inFirstView: false }, [
      { kind: 'fewer-pixels', bytes: 500 },
    ]);
    expect(taken).to.deep.equal({ whole: 500, firstView: 0, expected: 200 });
  });

  it('never saves more than there is, never less than nothing, and in any order of claims the same in sum', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 3_000_000 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.array(claim, { maxLength: 8 }),
        (bytes, reach, claims) => {
          const sum = (taken: { expected: number }[]) =>
            taken.reduce((total, { expected }) => total + expected, 0);
          const taken = shareOutSavings({ bytes, reach, inFirstView: true }, claims);
          for (const { whole, firstView, expected } of taken)
            for (const amount of [whole, firstView, expected]) {
              expect(amount).to.be.at.least(0);
              expect(Number.isInteger(amount)).to.equal(true);
            }
          expect(taken.reduce((total, { whole }) => total + whole, 0)).to.be.at.most(bytes);
          expect(sum(taken)).to.be.at.most(Math.round(bytes * reach));
          const reversed = shareOutSavings({ bytes, reach, inFirstView: true }, [...claims].reverse());
          expect(sum(reversed)).to.equal(sum(taken));
        },
      ),
    );
  });
});
