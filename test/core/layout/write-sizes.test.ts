import { expect } from 'chai';
import fc from 'fast-check';
import { allowedError, boxError, fitSize } from '../../../src/core/layout/fit-size.js';
import { cutIntoPieces, slotAt } from '../../../src/core/layout/slot-pieces.js';
import { firstWidths, SweepPlan } from '../../../src/core/layout/sweep-plan.js';
import { checkSizes, writeSizes } from '../../../src/core/layout/write-sizes.js';

const every = Array.from({ length: 2241 }, (_, index) => 320 + index);
/** Layout counts in 64ths of a px. */
const inLayout = (slot: number) => Math.floor(slot * 64) / 64;
const samplesOf = (slot: (viewport: number) => number, widths = every) =>
  widths.map((viewport) => ({ viewport, slot: inLayout(slot(viewport)) }));
const written = (slot: (viewport: number) => number) => {
  const result = writeSizes(samplesOf(slot));
  return 'text' in result ? result.text : result.reason;
};

const column = (viewport: number) => Math.min(viewport - 40, 1080);

describe('writing sizes', () => {
  const cases: [what: string, slot: (viewport: number) => number, text: string][] = [
    ['the whole width', (w) => w, '100vw'],
    ['a margin', (w) => w - 32, 'calc(100vw - 32px)'],
    ['a part', (w) => w / 2, '50vw'],
    ['one width', () => 344, '344px'],
    ['a column of limited width', column, '(max-width: 1120px) calc(100vw - 40px), 1080px'],
    [
      'breakpoints',
      (w) => (w < 700 ? w - 32 : w < 1200 ? w / 2 : 384),
      '(max-width: 699px) calc(100vw - 32px), (max-width: 1199px) 50vw, 384px',
    ],
    [
      'clamp(300px, 90vw, 1200px)',
      (w) => Math.min(1200, Math.max(300, w * 0.9)),
      '(max-width: 333px) 300px, (max-width: 1333px) 90vw, 1200px',
    ],
    ['a percentage of padding', (w) => w * 0.9 - 20, 'calc(90vw - 20px)'],
    ['three columns with gaps', (w) => (w - 96) / 3, 'calc((100vw - 96px) / 3)'],
    ['two columns of three', (w) => ((w - 120) * 2) / 3, 'calc((100vw - 120px) * 2 / 3)'],
    ['six columns', (w) => w / 6, 'calc(100vw / 6)'],
    [
      'a column of limited width inside margins of 5 % each',
      (w) => Math.min(w, 1200) - w * 0.1,
      '(max-width: 1200px) 90vw, calc(1200px - 10vw)',
    ],
  ];
  for (const [what, slot, text] of cases) it(`for ${what}`, () => expect(written(slot)).to.equal(text));

  it('for a grid that fits as many columns as it can, within the tolerance everywhere', () => {
    const grid = (w: number) => {
      const columns = Math.floor((column(w) + 24) / 304);
      return (column(w) - (columns - 1) * 24) / columns;
    };
    const result = writeSizes(samplesOf(grid));
    expect('holds' in result && result.holds).to.equal(1);
    expect('text' in result && result.text.split(', ')).to.have.length(4);
  });

  it('says when it cannot be said', () => {
    expect(written((w) => 200 + Math.sin(w / 10) * 50)).to.match(/straight lines|entries/);
    expect(written(() => 0)).to.equal('the image has no box at any width');
  });

  it('tells of a slot with one width', () => {
    expect(writeSizes(samplesOf(() => 160))).to.include({ constant: 160 });
  });

  it('holds wherever it says so: every straight layout with one breakpoint', () => {
    const part = fc.record({
      slope: fc.double({ min: -0.3, max: 1, noNaN: true }),
      offset: fc.integer({ min: -100, max: 900 }),
    });
    fc.assert(
      fc.property(part, part, fc.integer({ min: 400, max: 2400 }), (one, two, breakpoint) => {
        const slot = (w: number) => {
          const { slope, offset } = w < breakpoint ? one : two;
          return Math.max(20, w * slope + offset);
        };
        const samples = samplesOf(slot);
        const result = writeSizes(samples);
        if (!('text' in result)) throw new Error(result.reason);
        expect(result.holds).to.equal(1);
        expect(checkSizes(result.text, samples).holds).to.equal(1);
      }),
      { numRuns: 60 },
    );
  });
});

describe('fitting a length', () => {
  it('allows 1 px or half a percent', () => {
    expect(allowedError(100)).to.equal(1);
    expect(allowedError(1000)).to.equal(5);
  });
  it('is nearer where the box follows the text: a column of 58.3 % less 20 px, which 1 px more or less would change', () => {
    const column = samplesOf((w) => (w - 40) * 0.583 - 20);
    const result = writeSizes(column, { allowed: boxError });
    if (!('text' in result)) throw new Error(result.reason);
    expect(result.worst).to.be.at.most(0.5);
    // (2560 - 40) * 0.583 - 20 = 1449.16, of which half a percent is 7 px.
    expect(checkSizes(result.text, [{ viewport: 2560, slot: 1449.16 }]).worst).to.be.at.most(0.5);
  });
  it('finds none where no line is near enough', () => {
    expect(
      fitSize([
        { viewport: 400, slot: 100 },
        { viewport: 401, slot: 200 },
        { viewport: 402, slot: 100 },
      ]),
    ).to.equal(undefined);
  });
});

describe('pieces', () => {
  it('end where the slot jumps', () => {
    const pieces = cutIntoPieces(samplesOf((w) => (w < 500 ? w / 2 : w / 3)));
    expect(pieces.map(({ from, to }) => [from, to])).to.deep.equal([
      [320, 499],
      [500, 2560],
    ]);
  });
  it('are straight between samples', () => {
    expect(
      slotAt(
        [
          { viewport: 400, slot: 100 },
          { viewport: 500, slot: 200 },
        ],
        450,
      ),
    ).to.equal(150);
  });
});

describe('a sweep’s plan', () => {
  it('begins at both sides of each breakpoint', () => {
    expect(firstWidths([600])).to.include.members([320, 599, 600, 601, 2560]);
    expect(firstWidths([575.84])).to.include.members([574, 575, 576, 577]);
    expect(firstWidths([100, 9999])).to.deep.equal(firstWidths([]));
  });

  it('finds jumps that nothing names, to the pixel, with few looks', () => {
    const jumps = [433, 871, 1402];
    const slot = (w: number) => w / (1 + jumps.filter((jump) => w >= jump).length);
    const plan = new SweepPlan();
    const row = (w: number) => new Map<string, number | null>([['a', slot(w)]]);
    plan.begin(new Map(firstWidths([]).map((w) => [w, row(w)])));
    for (let wanted = plan.wanted(); wanted.length > 0; wanted = plan.wanted())
      plan.take(new Map(wanted.map((w) => [w, row(w)])));
    const seen = [...plan.rows.keys()];
    for (const jump of jumps) expect(seen).to.include.members([jump - 1, jump]);
    expect(seen.length).to.be.below(90);
  });
});
