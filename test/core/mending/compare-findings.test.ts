import { expect } from 'chai';
import { compareFindings } from '../../../src/core/mending/compare-findings.js';
import type { Slot } from '../../../src/core/run/index.js';
import { somePlacement } from '../../support/facts.js';
import { someFinding, someFix, someRun } from '../../support/some-run.js';

const band: Slot = { x: 0, y: 40, width: 400, height: 300 };
const wide: Slot = { x: 0, y: 60, width: 1200, height: 300 };

describe('findings of a mended site', () => {
  it('of an image of a style are the same where its rule has become several, each for some screens', () => {
    const styled = (id: string, slots: Record<string, Slot>) =>
      somePlacement({ id, kind: 'css-image', alt: null, slots });
    const before = someRun({
      placements: [styled('/#1', { phone: band, desk: wide })],
      findings: [someFinding('main-picture-late', '/#1'), someFinding('older-format', '/#1')],
    });
    const after = someRun({
      placements: [styled('/#1', { desk: { ...wide, y: 80 } }), styled('/#2', { phone: band })],
      findings: [
        someFinding('main-picture-late', '/#1'),
        someFinding('main-picture-late', '/#2'),
        someFinding('more-pixels-than-needed', '/#1'),
      ],
    });
    expect(compareFindings(before, after, [someFix({ id: 'fix.1', findings: [1] })])).to.deep.equal({
      went: 1,
      stayed: 0,
      stillThere: [],
      appeared: [{ check: 'more-pixels-than-needed', page: '/', says: 'more-pixels-than-needed at /#1' }],
    });
    expect(compareFindings(before, after, [someFix({ id: 'fix.2', findings: [0] })])).to.include({
      went: 0,
      stayed: 1,
    });
  });

  it('of two images that one box shows by two properties are told apart', () => {
    const shownBy = (id: string, property: string) =>
      somePlacement({
        id,
        kind: 'css-image',
        alt: null,
        slots: { phone: band },
        style: { property, layer: 0 },
      });
    const placements = [shownBy('/#1', 'background-image'), shownBy('/#2', 'mask-image')];
    const before = someRun({
      placements,
      findings: [someFinding('older-format', '/#1'), someFinding('older-format', '/#2')],
    });
    const after = someRun({ placements, findings: [someFinding('older-format', '/#2')] });
    const first = someFix({ id: 'fix.1', findings: [0] });
    expect(compareFindings(before, after, [first])).to.include({ went: 1, stayed: 0 });
    const both = compareFindings(before, after, [someFix({ id: 'fix.1', findings: [0, 1] })]);
    expect(both.stillThere).to.deep.equal([
      { check: 'older-format', page: '/', says: 'older-format at /#2' },
    ]);
    expect(both.appeared).to.deep.equal([]);
  });
});
