import { expect } from 'chai';
import { rankingLines } from '../../dist/src/cli/progress-bar.js';

const fix = (title: string, saves: number, isEstimate = false) => ({ title, saves, isEstimate });

describe('the first fixes above the bar', () => {
  it('stand on a line each, with what they save, and say where that is an estimate', () => {
    const lines = rankingLines([fix('Offer smaller widths', 271_000, true), fix('Make it lazy', 9_000)], 60);
    // All of 59 columns: one is left for the cursor.
    expect(lines).to.deep.equal([
      'First in the list so far; what is not encoded yet is an est',
      `${'1. Offer smaller widths'.padEnd(37)}  about 271 kB a visit`,
      `${'2. Make it lazy'.padEnd(43)}  9.0 kB a visit`,
    ]);
  });

  it('never take more columns than there are, whatever stands in a title', () => {
    const titles = ['x'.repeat(300), '山'.repeat(300), 'a\u001b[2Kb\u202e', 'short'];
    const lines = rankingLines(
      titles.map((title) => fix(title, 1e6, true)),
      80,
    );
    expect(lines).to.have.length(5);
    for (const line of lines) {
      const wide = [...line].filter((character) => character >= '\u1100' && character !== '…').length;
      expect([...line].length + wide, line).to.be.at.most(79);
      // eslint-disable-next-line no-control-regex -- none may be left
      expect(line).not.to.match(/[\u0000-\u001f\u202e]/);
    }
  });

  it('are not there where nothing is known', () => {
    expect(rankingLines([], 80)).to.deep.equal([]);
  });
});
