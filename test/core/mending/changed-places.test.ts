import { expect } from 'chai';
import { changedPlaces } from '../../../src/core/mending/changed-places.js';
import type { FixPlace, Placement } from '../../../src/core/run/index.js';
import { oneScreen, shownOn, somePlacement } from '../../support/facts.js';
import { someFix } from '../../support/some-run.js';

const inFile = { file: 'index.html', line: 1, column: 1 };

const placeOf = ({ id, page, source, selector }: Placement): FixPlace => ({
  placement: id,
  page,
  source,
  selector,
  edit: 0,
  after: '<img>',
  takes: {},
});

/** Which of the images of a fix change with its text. */
const changedOf = (...placements: Placement[]) => {
  const fix = someFix({ id: 'fix.one', places: placements.map(placeOf) });
  return changedPlaces({ placements }, [fix])
    .get(fix)
    ?.map(({ placement }) => placement);
};

const original = (more: Partial<Placement> = {}) =>
  somePlacement({
    id: '/#1',
    source: inFile,
    markup: '<img src="a.jpg" alt="A">',
    candidates: ['/a.jpg'],
    ...more,
  });
const made = (markup: string, candidates = ['/a.jpg']) =>
  somePlacement({ id: '/#2', source: null, markup, candidates });

describe('places that change with the text of a fix', () => {
  it('are those in files, and copies that say the same, not what a script makes by itself', () => {
    expect(changedOf(original(), made('<img alt="A" src="a.jpg">'))).to.deep.equal(['/#1', '/#2']);
    expect(changedOf(original(), made('<img src="/a.jpg">'))).to.deep.equal(['/#1']);
  });

  it('are those too that show the file of an image whose address a script takes', () => {
    const taken = original(
      shownOn(oneScreen, {
        url: '/a.jpg',
        bytes: 1000,
        slot: [100, 50],
        file: [200, 100],
        more: { addressed: true, widthElsewhere: 500 },
      }),
    );
    expect(changedOf(taken, made('<img src="/a.jpg">'))).to.deep.equal(['/#1', '/#2']);
    expect(changedOf(taken, made('<img src="/b.jpg">', ['/b.jpg']))).to.deep.equal(['/#1']);
  });
});
