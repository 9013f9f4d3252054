import { expect } from 'chai';
import { boxWith, looksAlike, type MeasuredBox } from '../../../src/core/plan/box.js';

const file = (width: number, height: number) => ({ width, height, density: 1 });

const measured = (
  width: number,
  height: number,
  shown: Partial<MeasuredBox['shown']>,
  fit = 'fill',
): MeasuredBox => ({
  slot: { x: 0, y: 0, width, height },
  shown: { widthFrom: 'auto', heightFrom: 'auto', limitWidth: null, fit, ...shown },
});

describe('the box of an image with another file', () => {
  it('that a style gives its height is as wide as the file makes it, up to what a style allows', () => {
    const free = measured(439.86, 200, { heightFrom: 'style' });
    expect(boxWith(free, file(640, 291), file(600, 300))).to.deep.equal({ width: 400, height: 200 });
    const limited = measured(390, 200, { heightFrom: 'style', limitWidth: 390 });
    expect(boxWith(limited, file(640, 291), file(640, 291))).to.deep.equal({ width: 390, height: 200 });
    expect(looksAlike(limited, file(640, 291), file(320, 145))).to.equal(true);
    expect(boxWith(limited, file(640, 291), file(300, 300))).to.deep.equal({ width: 200, height: 200 });
  });

  it('that nothing gives a side follows the file, up to what a style allows', () => {
    const limited = measured(600, 400, { limitWidth: 600 });
    expect(boxWith(limited, file(900, 600), file(1200, 600))).to.deep.equal({ width: 600, height: 300 });
    expect(boxWith(limited, file(900, 600), file(450, 300))).to.deep.equal({ width: 450, height: 300 });
  });
});
