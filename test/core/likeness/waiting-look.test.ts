import { expect } from 'chai';
import { waitingLook } from '../../../src/core/likeness/waiting-look.js';

/** A page of one colour with a rectangle of another in it, by a function of the place. */
function view(colourAt: (x: number, y: number) => number) {
  const [width, height] = [300, 300];
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.fill(colourAt(x, y), (y * width + x) * 3, (y * width + x) * 3 + 3);
  return { data, width, height, channels: 3 as const };
}

const slot = { x: 50, y: 50, width: 200, height: 150 };
const inside = (x: number, y: number) => x >= 50 && x < 250 && y >= 50 && y < 200;

describe('what stands in a slot while its image is awaited', () => {
  it('is nothing where the slot looks like the page around it', () => {
    expect(
      waitingLook(
        view(() => 250),
        slot,
        'nothing',
      ),
    ).to.equal('blank');
    // Two levels more cannot be told apart.
    expect(
      waitingLook(
        view((x, y) => (inside(x, y) ? 252 : 250)),
        slot,
        'nothing',
      ),
    ).to.equal('blank');
  });
  it('is a colour where it differs', () => {
    expect(
      waitingLook(
        view((x, y) => (inside(x, y) ? 200 : 250)),
        slot,
        'nothing',
      ),
    ).to.equal('colour');
  });
  it('is nothing still where letters stand beside it', () => {
    // A line of text below the slot, of which every third column is drawn, right below its middle too.
    const letters = view((x, y) => (y >= 202 && y < 214 && x % 3 === 0 ? 20 : 250));
    expect(waitingLook(letters, slot, 'nothing')).to.equal('blank');
    // A bar of the same length is not the ground.
    const bar = view((_, y) => (y >= 202 && y < 214 ? 20 : 250));
    expect(waitingLook(bar, slot, 'nothing')).to.equal('colour');
  });
  it('is something where it is not of one colour', () => {
    expect(
      waitingLook(
        view((x, y) => (inside(x, y) ? x : 250)),
        slot,
        'nothing',
      ),
    ).to.equal('other');
  });
  it('is what styles say of gradients and inlined copies', () => {
    expect(
      waitingLook(
        view(() => 250),
        slot,
        'gradient',
      ),
    ).to.equal('gradient');
    expect(
      waitingLook(
        view(() => 250),
        slot,
        'inlined-picture',
      ),
    ).to.equal('inlined-picture');
  });
  it('is not asked for small slots and those out of view', () => {
    expect(
      waitingLook(
        view(() => 250),
        { ...slot, width: 60 },
        'nothing',
      ),
    ).to.equal(null);
    expect(
      waitingLook(
        view(() => 250),
        { ...slot, y: 400 },
        'nothing',
      ),
    ).to.equal(null);
  });
});
