import { expect } from 'chai';
import { runFromLines, RunFormatError } from '../../../src/core/run/index.js';
import { runAsJson } from '../../../src/report/json.js';
import { someFinding, someRun } from '../../support/some-run.js';

describe('a saved run, line by line', () => {
  it('is the same as read at once', async () => {
    const text = runAsJson(someRun());
    expect(await runFromLines(text.split('\n'))).to.deep.equal(JSON.parse(text));
  });

  it('has each element of a list on a line of its own', () => {
    const findings = [someFinding('upscaled', '/#1'), someFinding('stretched', '/#2')];
    const lines = runAsJson(someRun({ findings })).split('\n');
    const first = lines.indexOf('"findings": [');
    const elements = lines
      .slice(first + 1, first + 3)
      .map((line) => JSON.parse(line.replace(/,$/, '')) as unknown);
    expect(elements).to.deep.equal(JSON.parse(JSON.stringify(findings)));
    expect(lines[first + 3]).to.match(/^\],?$/);
  });

  it('is refused where the lines are others, by the number of the line', async () => {
    for (const [text, number] of [
      ['{\n "format": "x"\n}', 2],
      ['{\n"pages": [\n{"path":\n"/"}\n]\n}', 3],
      ['hello', 1],
    ] as const) {
      const refused = await runFromLines(text.split('\n')).catch((cause: unknown) => cause);
      expect(refused).to.be.instanceOf(RunFormatError);
      expect((refused as Error).message).to.include(`line ${number} `);
    }
  });

  it('does not take a field for more than a field', async () => {
    const run = await runFromLines(['{', '"__proto__": {"weight": 1}', '}']);
    expect(Object.getPrototypeOf(run)).to.equal(Object.prototype);
    expect(Object.keys(run as object)).to.deep.equal(['__proto__']);
  });
});
