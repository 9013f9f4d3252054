import { expect } from 'chai';
import fc from 'fast-check';
import { cutOrder, type CutKind } from '../../../src/core/bytes/ledger.js';
import { totalsOf } from '../../../src/core/bytes/totals.js';
import { judge, type Check } from '../../../src/core/checks/index.js';
import { averageSavings } from '../../../src/core/fixes/savings.js';
import type { Download, Placement, Screen } from '../../../src/core/run/index.js';
import { someFacts, somePlacement } from '../../support/facts.js';

const screens: Screen[] = [
  { name: 'small', width: 400, height: 800, density: 3, touch: true, share: 0.7 },
  { name: 'large', width: 1400, height: 900, density: 1, touch: false, share: 0.3 },
];

interface Shown {
  bytes: number;
  depth: number;
  /** Claimed bytes by kind of cut. */
  claims: Record<string, number>;
}

const shown = fc.record({
  bytes: fc.integer({ min: 0, max: 900_000 }),
  depth: fc.integer({ min: 0, max: 12_000 }),
  claims: fc.dictionary(fc.constantFrom(...cutOrder), fc.integer({ min: 0, max: 900_000 })),
});

const site = fc.dictionary(
  fc.constantFrom('/', '/a', '/b'),
  fc.array(fc.tuple(shown, shown), { minLength: 1, maxLength: 6 }),
  { minKeys: 1 },
);

/** A check that claims what it is told to, whatever the facts say. */
function claimer(kind: CutKind, told: ReadonlyMap<string, Record<string, number>>): Check {
  return {
    id: kind,
    about: { title: kind, means: '', evidence: '', fix: '', silent: '' },
    cut: kind,
    sureness: '',
    words: () => '',
    remedy: () => ({ edits: [], files: [], notes: [] }),
    find: ({ placements }) =>
      placements.flatMap((placement) => {
        const evidence = Object.fromEntries(
          Object.keys(placement.downloads).flatMap((screen) => {
            const saves = told.get(`${placement.id} ${screen}`)?.[kind];
            return saves === undefined ? [] : [[screen, { saves, reachAfter: 0.2 }]];
          }),
        );
        return Object.keys(evidence).length > 0 ? [{ placement, screens: evidence }] : [];
      }),
  };
}

function build(pages: Record<string, [Shown, Shown][]>) {
  const told = new Map<string, Record<string, number>>();
  const downloads: Record<string, Record<string, Download[]>> = {};
  const placements: Placement[] = [];
  for (const [page, images] of Object.entries(pages)) {
    downloads[page] = { small: [], large: [] };
    images.forEach((perScreen, index) => {
      const url = `/${index}.jpg`;
      const placement = somePlacement({ id: `${page}#${index}`, page });
      screens.forEach(({ name }, at) => {
        const { bytes, depth, claims } = perScreen[at] as Shown;
        const began = depth === 0 ? 'first-view' : 'scrolled';
        const download: Download = { url, bytes, type: 'image/jpeg', status: 200, began, scrollDepth: depth };
        downloads[page]?.[name]?.push(download);
        placement.downloads[name] = { url, bytes, began, scrollDepth: depth };
        told.set(`${placement.id} ${name}`, claims);
      });
      placements.push(placement);
    });
  }
  const facts = someFacts({ screens, downloads, placements });
  const limits = { trifleBytes: 0, trifleShare: 0 };
  return {
    facts: { ...facts, wishes: { ...facts.wishes, trifles: limits } },
    checks: cutOrder.map((kind) => claimer(kind, told)),
  };
}

describe('the judgement', () => {
  it('shares every download out exactly, in whole bytes, none below nothing', () => {
    fc.assert(
      fc.property(site, (pages) => {
        const { facts, checks } = build(pages);
        for (const entry of judge(checks, facts).ledger) {
          const { delivered, cuts, remains, expected, expectedRemains } = entry;
          const sum = (value: (cut: (typeof cuts)[number]) => number) =>
            cuts.reduce((total, cut) => total + value(cut), 0);
          expect(remains + sum(({ bytes }) => bytes)).to.equal(delivered);
          expect(expectedRemains + sum((cut) => cut.expected)).to.equal(expected);
          for (const amount of [
            remains,
            expectedRemains,
            ...cuts.flatMap((cut) => [cut.bytes, cut.expected]),
          ]) {
            expect(amount).to.be.at.least(0);
            expect(Number.isInteger(amount)).to.equal(true);
          }
        }
      }),
      { numRuns: 150 },
    );
  });

  it('saves with all fixes together what the totals fall by', () => {
    fc.assert(
      fc.property(site, (pages) => {
        const { facts, checks } = build(pages);
        const { findings, ledger } = judge(checks, facts);
        const { average } = totalsOf(facts.pages, screens, ledger);
        const saved = averageSavings(findings, facts.pages, screens).expected;
        expect(saved).to.be.closeTo(average.expected - average.expectedAfter, 2);
      }),
      { numRuns: 150 },
    );
  });

  it('is the same in whatever order the images come', () => {
    fc.assert(
      fc.property(site, (pages) => {
        const { facts, checks } = build(pages);
        const sums = (placements: readonly Placement[]) =>
          judge(checks, { ...facts, placements })
            .ledger.map(({ page, screen, url, remains, expectedRemains }) =>
              JSON.stringify([page, screen, url, remains, expectedRemains]),
            )
            .sort();
        expect(sums([...facts.placements].reverse())).to.deep.equal(sums(facts.placements));
      }),
      { numRuns: 100 },
    );
  });

  it('counts what is not worth a reader’s time, and takes nothing for it', () => {
    const big: Shown = { bytes: 100_000, depth: 0, claims: { 'better-encoding': 14_000 } };
    const small: Shown = { bytes: 5000, depth: 0, claims: { 'better-encoding': 3900 } };
    const { facts, checks } = build({
      '/': [
        [big, big],
        [small, small],
      ],
    });
    const usual = {
      ...facts,
      wishes: { ...facts.wishes, trifles: { trifleBytes: 4000, trifleShare: 0.15 } },
    };
    const { findings, trifles, ledger } = judge(checks, usual);
    // 14 % of the one, under 4 kB of the other.
    expect(findings).to.deep.equal([]);
    expect(trifles).to.deep.equal({ findings: 2, bytes: 17_900 });
    for (const { delivered, remains } of ledger) expect(remains).to.equal(delivered);
  });
});
