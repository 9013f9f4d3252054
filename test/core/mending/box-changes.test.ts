import { expect } from 'chai';
import { boxChanges, type ElementBox, type Layouts } from '../../../src/core/mending/box-changes.js';

const at = (...boxes: ElementBox[]): Layouts => new Map([[320, boxes]]);

const page: ElementBox[] = [
  ['main', 0, 0, 320, 900],
  ['img.lead', 10, 10, 300, 200],
  ['p#text', 10, 220, 300, 60],
];

const changes = (now: ElementBox[], more: { again?: Layouts; boxWasTheFault?: boolean } = {}) =>
  boxChanges({ before: at(...page), after: at(...now), boxWasTheFault: false, ...more }).map(
    ({ viewport, element, says }) => `${viewport} ${element}: ${says}`,
  );

const moved = (index: number, box: ElementBox) =>
  page.map((each, position) => (position === index ? box : each));

describe('boxes of a mended page', () => {
  it('may be off by what whole pixels of files bring, and no more', () => {
    expect(changes(page)).to.deep.equal([]);
    expect(changes(moved(1, ['img.lead', 10, 10, 300, 201]))).to.deep.equal([]);
    expect(changes(moved(1, ['img.lead', 10, 10, 300, 206]))).to.deep.equal([
      '320 img.lead: it is 300 × 206 px instead of 300 × 200 px',
    ]);
    expect(changes(moved(2, ['p#text', 10, 226, 300, 60]))).to.deep.equal([
      '320 p#text: it stands at 10, 226 instead of 10, 220',
    ]);
  });

  it('are the same elements, whatever classes a script gives them', () => {
    expect(changes(moved(1, ['img.lead', 10, 10, 300, 200]).slice(0, 2))).to.deep.equal([
      '320 body: it shows 2 elements instead of 3',
    ]);
    expect(changes(moved(1, ['img.ready', 10, 10, 300, 200]))).to.deep.equal([]);
    expect(changes(moved(1, ['video', 10, 10, 300, 200]))).to.have.length(1);
  });

  it('do not count where they differ between two loads of the page as it was', () => {
    const now = moved(2, ['p#text', 10, 320, 300, 60]);
    expect(changes(now, { again: at(...moved(2, ['p#text', 10, 270, 300, 60])) })).to.deep.equal([]);
    expect(changes(now, { again: at(...page) })).to.have.length(1);
  });

  it('of images count only across beside one whose box was the fault', () => {
    const taller = moved(1, ['img.lead', 10, 10, 300, 400]);
    expect(changes(taller, { boxWasTheFault: true })).to.deep.equal([]);
    expect(changes(moved(2, ['p#text', 40, 420, 270, 60]), { boxWasTheFault: true })).to.have.length(1);
  });
});
