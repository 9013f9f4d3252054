import { expect } from 'chai';
import type { Placement, Screen, SlotSweep } from '../../../src/core/run/index.js';
import { isSameSweep, slotSigns, SweptTemplate } from '../../../src/core/templates/shared-sweeps.js';

const sweep = (placement: string, slot: number, change: Partial<SlotSweep> = {}): SlotSweep => ({
  placement,
  pieces: [{ from: 320, slotFrom: slot, to: 2560, slotTo: slot }],
  write: null,
  reason: null,
  holds: 1,
  worst: 0,
  constant: slot,
  ...change,
});

const page = (name: string, ...signs: string[]) =>
  signs.map((each, index) => ({ id: `${name}#${index + 1}`, signs: each }));
const swept = (...sweeps: SlotSweep[]) => new Map(sweeps.map((each) => [each.placement, each]));

describe('sweeps that pages of one skeleton share', () => {
  it('are taken from the placement of the same signs, in the order of the page', () => {
    const template = new SweptTemplate();
    template.add(
      page('/a', 'lead', 'card', 'card'),
      swept(sweep('/a#1', 900), sweep('/a#2', 300), sweep('/a#3', 200)),
    );
    expect(template.sweepsFor(page('/b', 'card', 'lead', 'card'))).to.have.deep.members([
      { ...sweep('/b#1', 300), like: '/a#2' },
      { ...sweep('/b#2', 900), like: '/a#1' },
      { ...sweep('/b#3', 200), like: '/a#3' },
    ]);
  });

  it('are not there for other signs, nor for more of the same than were swept, unless those are alike', () => {
    const template = new SweptTemplate();
    template.add(
      page('/a', 'card', 'card', 'side'),
      swept(sweep('/a#1', 300), sweep('/a#2', 200), sweep('/a#3', 100)),
    );
    expect(template.sweepsFor(page('/b', 'lead'))).to.equal(undefined);
    expect(template.sweepsFor(page('/b', 'card', 'card', 'card'))).to.equal(undefined);
    expect(template.sweepsFor(page('/b', 'side', 'side'))?.map(({ like }) => like)).to.deep.equal([
      '/a#3',
      '/a#3',
    ]);
    // A page with more of them tells of all.
    template.add(
      page('/c', 'card', 'card', 'card'),
      swept(...[1, 2, 3].map((at) => sweep(`/c#${at}`, at * 100))),
    );
    expect(
      template.sweepsFor(page('/b', 'card', 'card', 'card'))?.map(({ constant }) => constant),
    ).to.deep.equal([100, 200, 300]);
  });

  it('are not there for what could not be swept', () => {
    const template = new SweptTemplate();
    template.add(page('/a', 'card'), swept());
    expect(template.sweepsFor(page('/b', 'card'))).to.equal(undefined);
  });

  it('are the same within a pixel, and with the same text', () => {
    const one = sweep('/a#1', 300, { write: '300px' });
    expect(
      isSameSweep(one, { ...one, pieces: [{ from: 321, slotFrom: 300.6, to: 2560, slotTo: 299.4 }] }),
    ).to.equal(true);
    for (const other of [
      { ...one, pieces: [{ from: 320, slotFrom: 302, to: 2560, slotTo: 300 }] },
      { ...one, pieces: [{ from: 322, slotFrom: 300, to: 2560, slotTo: 300 }] },
      { ...one, pieces: [...one.pieces, ...one.pieces] },
      { ...one, write: '299px' },
      { ...one, constant: null },
      { ...one, reason: 'the slot depends on the height of the viewport too' },
    ])
      expect(isSameSweep(one, other)).to.equal(false);
  });
});

describe('the signs of a slot', () => {
  const screens = ['phone', 'desk'].map((name) => ({ name }) as Screen);
  const placement = (change: object): Placement =>
    ({
      kind: 'img',
      template: 'body > img[src]',
      slots: { phone: { width: 400.1 }, desk: null },
      shown: { phone: { drawnWidth: 400.1, fit: 'fill', widthFrom: 'style' } },
      ...change,
    }) as unknown as Placement;

  it('are the template and what was measured on each screen, to the half of a pixel', () => {
    const signs = slotSigns(placement({}), screens);
    expect(slotSigns(placement({ slots: { phone: { width: 399.9 }, desk: null } }), screens)).to.equal(signs);
    for (const change of [
      { kind: 'picture' },
      { template: 'body > div > img[src]' },
      { slots: { phone: { width: 401 }, desk: null } },
      { slots: { phone: { width: 400.1 }, desk: { width: 10 } } },
      { shown: { phone: { drawnWidth: 500, fit: 'fill', widthFrom: 'style' } } },
      { shown: { phone: { drawnWidth: 400.1, fit: 'cover', widthFrom: 'style' } } },
    ])
      expect(slotSigns(placement(change), screens), JSON.stringify(change)).not.to.equal(signs);
  });
});
