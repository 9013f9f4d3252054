import { expect } from 'chai';
import type { LedgerCut, LedgerEntry } from '../../src/core/run/index.js';
import { writePlaceholders } from '../../src/report/placeholders.js';
import { ledgerChain } from '../../src/report/terminal/ledger-chain.js';
import { weighReport } from '../../src/report/terminal/weigh-report.js';
import { weighPicture } from '../../src/core/bytes/weighing.js';
import { someFile } from '../support/facts.js';

const plain = { columns: 100, colours: 0 } as const;

function entry(
  delivered: number,
  cuts: [kind: string, bytes: number, expected: number][],
  expected = delivered,
): LedgerEntry {
  const list = cuts.map(([kind, bytes, saved], index): LedgerCut => ({
    kind,
    fix: `fix.${index}`,
    bytes,
    expected: saved,
  }));
  return {
    page: '/',
    screen: 'desk',
    url: '/a.jpg',
    placements: [],
    delivered,
    cuts: list,
    remains: delivered - list.reduce((sum, { bytes }) => sum + bytes, 0),
    expected,
    expectedRemains: expected - list.reduce((sum, cut) => sum + cut.expected, 0),
  };
}

describe('the way of a download’s bytes', () => {
  it('is told in the order of the ledger, whatever the order of the cuts', () => {
    const cuts: [string, number, number][] = [
      ['newer-format', 95_000, 95_000],
      ['fewer-pixels', 1_010_000, 1_010_000],
      ['better-encoding', 60_000, 60_000],
    ];
    expect(ledgerChain(entry(1_240_000, cuts))).to.equal(
      '1,240 kB delivered → fewer pixels −1,010 kB → lighter encoding −60 kB → newer format −95 kB → 75 kB remain',
    );
  });

  it('adds up cuts of one kind, and leaves out what takes nothing', () => {
    const cuts: [string, number, number][] = [
      ['metadata', 2000, 2000],
      ['metadata', 3000, 3000],
      ['unneeded', 0, 0],
    ];
    expect(ledgerChain(entry(50_000, cuts))).to.equal('50 kB delivered → metadata −5.0 kB → 45 kB remain');
  });

  it('tells of what is put off that its size stays', () => {
    expect(ledgerChain(entry(100_000, [['later', 0, 40_000]]))).to.equal(
      '100 kB delivered → later −40 kB → 100 kB remain, 60 kB in an average visit (now 100 kB)',
    );
  });
});

describe('the report of weighed files', () => {
  const file = someFile({
    url: 'a.jpg',
    width: 1600,
    height: 1200,
    bytes: 400_000,
    metadata: { comments: 500 },
  });
  const point = (width: number, bytes: number) => ({ width, bytes, quality: 61.4, decibels: 12.34 });
  const price = {
    url: 'a.jpg',
    content: 'photo' as const,
    alike: [],
    formats: { avif: [point(400, 2000), point(800, 30_000)], jpeg: [point(400, 15_000), point(800, 45_000)] },
    notes: [],
  };
  const weighing = weighPicture(file, price, [400, 800, 1600], { trifleBytes: 4000, trifleShare: 0.15 });
  const out = weighReport(
    [
      { name: 'a.jpg', weighing, took: () => 17 },
      { name: 'b.jpg', why: 'the file is empty' },
    ],
    plain,
  );

  it('has a line for each width and format, small shares with a decimal', () => {
    expect(out).to.match(/400 {2}AVIF +2\.0 kB +0\.5 % +61 +12\.3 dB +measured +17 ms/);
    expect(out).to.match(/800 {2}JPEG +45 kB +11 % +61 +12\.3 dB +measured +17 ms/);
    // Twice as wide as the largest encode: far beyond it.
    expect(out).to.match(/1,600 {2}AVIF +\d+ kB +\d+ % +61 +– +estimated ±40 % +–/);
  });

  it('says what to serve, what is carried along and what could not be read', () => {
    expect(out).to.contain('At 800 px serve AVIF of 30 kB, JPEG of 45 kB for older browsers.');
    expect(out).to.contain('Carried along: comments 500 B.');
    expect(out).to.contain('cannot be weighed: the file is empty');
  });

  it('says nothing of the kind of a lossily stored picture where it cannot be told', () => {
    const told = (content: 'photo' | 'between', lossless: boolean) => {
      const stored = { ...file, lossless };
      const options = { trifleBytes: 4000, trifleShare: 0.15 };
      const unsure = weighPicture(stored, { ...price, content }, [400], options);
      return weighReport([{ name: 'a.jpg', weighing: unsure, took: () => 17 }], plain);
    };
    expect(told('photo', false)).to.contain('a photograph');
    expect(told('between', true)).to.contain('between drawing and photograph');
    expect(told('between', false)).not.to.match(/drawing|photograph/);
  });

  it('shows names as plain text', () => {
    const hostile = weighReport([{ name: '\u001b[31mred', why: 'no\u0007bell' }], plain);
    // eslint-disable-next-line no-control-regex
    expect(hostile).not.to.match(/[\u001b\u0007]/);
  });
});

describe('placeholders as text', () => {
  const offer = { colour: '#123456', gradient: 'linear-gradient(#111111, #222222, #333333)', inlined: null };

  it('cannot break out of a comment or a class name', () => {
    const css = writePlaceholders([{ name: 'a*/ b{}.png', width: 4, height: 3, offer }], 'css');
    expect(css.match(/\*\//g)).to.have.length(1);
    expect(css).to.match(/^\.awaiting--b-? ?\{$|^\.awaiting-[A-Za-z0-9_-]+ \{$/m);
  });

  it('leave out a copy where there is none', () => {
    expect(writePlaceholders([{ name: 'a.png', width: 4, height: 3, offer }], 'css')).not.to.contain('url(');
    const attributes = writePlaceholders([{ name: 'a.png', width: 4, height: 3, offer }], 'attribute');
    expect(attributes.trim().split('\n')).to.have.length(3);
  });
});
