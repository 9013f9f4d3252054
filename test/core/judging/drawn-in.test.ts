import { expect } from 'chai';
import { slotInWords, widthsIn } from '../../../src/core/judging/drawn-in.js';
import type { Placement, Shown } from '../../../src/core/run/index.js';

/** A placement of which only its widths are asked, CSS px. */
const placed = (slotWidth: number | null, drawnWidth: number): Placement => {
  const slot = slotWidth === null ? null : { x: 0, y: 0, width: slotWidth, height: 90 };
  return { slots: { phone: slot }, shown: { phone: { drawnWidth } as Shown } } as unknown as Placement;
};

describe('the width of a slot', () => {
  it('is told with that of the picture in it, where the two differ', () => {
    // A square of 80 px that shows the middle of a picture of 3 : 2 is as high as the picture, which is 120 px wide.
    expect(widthsIn(placed(80, 120), 'phone')).to.deep.equal({ slotWidth: 80, drawnWidth: 120 });
    expect(slotInWords({ slotWidth: 80, drawnWidth: 120 })).to.equal(
      'slot of 80 CSS px (the picture is 120 px wide in it)',
    );
  });

  it('is told alone where the picture fills it, to a pixel', () => {
    for (const drawn of [340, 340.4])
      expect(widthsIn(placed(340, drawn), 'phone')).to.deep.equal({ slotWidth: 340 });
    expect(slotInWords({ slotWidth: 340 })).to.equal('slot of 340 CSS px');
  });

  it('is that of the picture where nothing has a box', () => {
    expect(widthsIn(placed(null, 64), 'phone')).to.deep.equal({ slotWidth: 64 });
  });
});
