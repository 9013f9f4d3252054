import { expect } from 'chai';
import fc from 'fast-check';
import { readRun, RunFormatError, shorten, wholeRun, type Alike } from '../../../src/core/run/index.js';
import { runAsJson } from '../../../src/report/json.js';
import { somePlacement } from '../../support/facts.js';
import { someRun } from '../../support/some-run.js';

/** As it is saved and read again. */
const again = (value: unknown): unknown => JSON.parse(JSON.stringify(value));

/** A list that is long enough, its first elements given. */
const longList = (first: readonly object[]) => [
  ...first,
  ...Array.from({ length: 1000 }, (_, index) => ({ check: 'filler', placement: `/${index}#1` })),
];

describe('elements that are like others', () => {
  it('are written as what is different, by place', () => {
    const slot = { x: 16, y: 80, width: 358, height: 238 };
    const one = {
      check: 'c',
      placement: '/a#1',
      says: 'the same words for both',
      screens: { phone: { slot, bytes: 9 } },
    };
    const other = { ...one, placement: '/b#1', screens: { phone: { slot: { ...slot, y: 92 }, bytes: 9 } } };
    const written = [...shorten('findings', longList([one, other]))] as Alike[];
    expect(written[0]).to.equal(one);
    expect(written[1]).to.deep.equal({
      as: 0,
      but: { '/placement': '/b#1', '/screens/phone/slot/y': 92 },
    });
  });

  it('stay whole in short lists, in lists of other kinds, and where they have little in common', () => {
    const alike = Array.from({ length: 999 }, (_, index) => ({
      check: 'c',
      text: 'a long text'.repeat(9),
      index,
    }));
    expect([...shorten('findings', alike)]).to.deep.equal(alike);
    const pages = Array.from({ length: 1500 }, (_, index) => ({ path: `/${index}`, text: 'a'.repeat(99) }));
    expect([...shorten('pages', pages)]).to.deep.equal(pages);
    const [first, second] = [
      { check: 'c', a: 'x'.repeat(50) },
      { check: 'c', a: 'y'.repeat(50) },
    ];
    expect([...shorten('findings', longList([first, second]))].slice(0, 2)).to.deep.equal([first, second]);
  });

  it('are whole again when they are read, each name in its order', () => {
    const name = fc.constantFrom('a', 'b/c', '~', '~1', '__proto__', 'constructor', '0', '');
    const value = fc.letrec((tie) => ({
      value: fc.oneof(
        { maxDepth: 4 },
        fc.constantFrom(null, true, 0, 1.5, 'text', ''),
        fc.dictionary(name, tie('value'), { maxKeys: 4 }),
        fc.array(tie('value'), { maxLength: 3 }),
      ),
    })).value;
    const element = fc.record({
      check: fc.constantFrom('c', 'd'),
      says: fc.constant('words '.repeat(30)),
      screens: value,
    });
    fc.assert(
      fc.property(fc.array(element, { minLength: 2, maxLength: 12 }), (first) => {
        const findings = again(longList(first)) as object[];
        const written = again({ findings: [...shorten('findings', findings)] });
        expect(JSON.stringify(wholeRun(written))).to.equal(JSON.stringify({ findings }));
      }),
    );
  });

  it('make a saved run of many placements a part as long, and the same one once it is read', () => {
    const run = someRun();
    const model = somePlacement({ id: '/#1', slots: { desk: { x: 0, y: 9, width: 80, height: 60 } } });
    const placements = Array.from({ length: 1200 }, (_, index) => ({
      ...model,
      id: `/p${index}#1`,
      page: `/p${index}`,
    }));
    const text = runAsJson({ ...run, placements });
    expect(text.length).to.be.below(JSON.stringify({ ...run, placements }).length / 3);
    expect(readRun(JSON.parse(text)).placements).to.deep.equal(placements);
  });

  it('are refused where they are like none, or differ where there is nothing', () => {
    const run = again(someRun({ placements: [somePlacement({ id: '/#1' })] })) as { placements: unknown[] };
    const refused = (element: unknown) => () => readRun({ ...run, placements: [...run.placements, element] });
    const behind = run.placements.length;
    expect(refused({ as: behind, but: {} })).to.throw(RunFormatError, /there is no element \d+ before it/);
    expect(refused({ as: -1, but: {} })).to.throw(RunFormatError, /there is no element -1/);
    expect(refused({ as: 0, but: { '/none/x': 1 } })).to.throw(RunFormatError, /there is no "none"/);
    for (const place of ['/__proto__/polluted', '/constructor/prototype/polluted', '/page/x'])
      expect(refused({ as: 0, but: { [place]: true } })).to.throw(RunFormatError, /cannot be made whole/);
    expect(({} as Record<string, unknown>)['polluted']).to.equal(undefined);
    // Made whole it is held against the schema like all others.
    expect(refused({ as: 0, but: { '/alt': 5 } })).to.throw(RunFormatError, /alt/);
  });
});
