import { expect } from 'chai';
import fc from 'fast-check';
import {
  readRun,
  RunFormatError,
  shorten,
  wholeRun,
  type Alike,
  type Finding,
} from '../../../src/core/run/index.js';
import { LikeBefore } from '../../../src/core/run/like-before.js';
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
  it('are written as what is different, by place; places of one value, here and there, stand together', () => {
    const slot = { x: 16, y: 80, width: 358, height: 238 };
    const one = {
      check: 'c',
      placement: '/a#1',
      says: 'the same words for both, of which there are some more',
      screens: { phone: { slot, bytes: 9 }, desk: { slot, bytes: 9 } },
    };
    const other = (placement: string, yPhone: number, yDesk: number) => ({
      ...one,
      placement,
      screens: {
        phone: { slot: { ...slot, y: yPhone }, bytes: 9 },
        desk: { slot: { ...slot, y: yDesk }, bytes: 9 },
      },
    });
    const [yPhone, yDesk] = ['/screens/phone/slot/y', '/screens/desk/slot/y'];
    const findings = [
      one,
      other('/b#1', 92, 92),
      other('/c#1', 93, 93),
      other('/d#1', 1, 2),
      other('/e#1', 80, 3),
    ];
    const written = [...shorten('findings', longList(findings))] as Alike[];
    expect(written.slice(0, 5)).to.deep.equal([
      one,
      { as: 0, at: ['/placement', [yPhone, yDesk]], to: ['/b#1', 92] },
      { as: 0, at: 1, to: ['/c#1', 93] },
      // What was equal by chance parts.
      { as: 0, at: ['/placement', yPhone, yDesk], to: ['/d#1', 1, 2] },
      { as: 0, at: 3, to: ['/e#1', 80, 3] },
    ]);
  });

  it('are written so in the places of a fix, too', () => {
    const place = { edit: 0, placement: '/0#1', after: 'the same text for all places of a fix, as is usual' };
    const places = Array.from({ length: 1000 }, (_, index) => ({ ...place, placement: `/${index}#1` }));
    const [written] = [...shorten('fixes', [{ id: 'fix.1', places }])] as { places: unknown[] }[];
    expect(written?.places.slice(1, 3)).to.deep.equal([
      { as: 0, at: ['/placement'], to: ['/1#1'] },
      { as: 0, at: 1, to: ['/2#1'] },
    ]);
    expect(wholeRun(again({ fixes: [written] }))).to.deep.equal({ fixes: [{ id: 'fix.1', places }] });
  });

  it('stay whole in short lists, in lists of other kinds, and where they have little in common', () => {
    const alike = Array.from({ length: 999 }, (_, index) => ({
      check: 'c',
      text: 'a long text'.repeat(9),
      index,
    }));
    expect([...shorten('findings', alike)]).to.deep.equal(alike);
    const files = Array.from({ length: 1500 }, (_, index) => ({ path: `/${index}`, text: 'a'.repeat(99) }));
    expect([...shorten('files', files)]).to.deep.equal(files);
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
      also: fc.record({ y: fc.nat(3), z: fc.nat(3), text: fc.constantFrom('a', 'b') }),
    });
    fc.assert(
      fc.property(fc.array(element, { minLength: 2, maxLength: 25 }), (elements) => {
        const findings = again(elements) as Finding[];
        const likeBefore = new LikeBefore();
        const written = findings.map((each) => likeBefore.write(each, each.check));
        expect(JSON.stringify(wholeRun(again({ findings: written })))).to.equal(JSON.stringify({ findings }));
      }),
      { numRuns: 500 },
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
    expect(text.length).to.be.below(JSON.stringify({ ...run, placements }).length / 6);
    expect(readRun(JSON.parse(text)).placements).to.deep.equal(placements);
  });

  it('are refused where they are like none, or differ where there is nothing', () => {
    const run = again(someRun({ placements: [somePlacement({ id: '/#1' })] })) as { placements: unknown[] };
    const refused = (element: unknown) => () => readRun({ ...run, placements: [...run.placements, element] });
    const behind = run.placements.length;
    const none = { at: [], to: [] };
    expect(refused({ as: behind, ...none })).to.throw(RunFormatError, /there is no element \d+ before it/);
    expect(refused({ as: -1, ...none })).to.throw(RunFormatError, /there is no element -1/);
    expect(refused({ as: 0, at: ['/none/x'], to: [1] })).to.throw(RunFormatError, /there is no "none"/);
    for (const at of [0, behind, behind + 1, -1, ['/alt', '/id'], 'alt', undefined])
      expect(refused({ as: 0, at, to: ['x'] })).to.throw(RunFormatError, /for each value where it stands/);
    for (const place of ['/__proto__/polluted', '/constructor/prototype/polluted', '/page/x'])
      expect(refused({ as: 0, at: [[place]], to: [true] })).to.throw(RunFormatError, /cannot be made whole/);
    expect(({} as Record<string, unknown>)['polluted']).to.equal(undefined);
    // Made whole it is held against the schema like all others.
    expect(refused({ as: 0, at: ['/alt'], to: [5] })).to.throw(RunFormatError, /alt/);
  });
});
