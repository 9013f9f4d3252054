import { expect } from 'chai';
import { Exceptions, markupRules } from '../../../src/core/judging/exceptions.js';
import { somePlacement } from '../../support/facts.js';

const placement = somePlacement({ id: '/a/#1', page: '/a/' });

describe('exceptions', () => {
  it('are written in markup with a check, a day and a reason', () => {
    const of = (value: string) => markupRules({ markup: `<img src="a.jpg" data-yukkuri-leave="${value}">` });
    expect(of('no-dimensions')).to.deep.equal([
      { check: 'no-dimensions', until: undefined, reason: undefined },
    ]);
    expect(of('older-format until 2030-01-31: the tool cannot; *: all of it')).to.deep.equal([
      { check: 'older-format', until: '2030-01-31', reason: 'the tool cannot' },
      { check: '*', until: undefined, reason: 'all of it' },
    ]);
    expect(of('Not A Check!')).to.deep.equal([]);
    expect(
      markupRules({
        markup: '<picture><source srcset="b.avif"><img data-yukkuri-leave="upscaled: small"></picture>',
      }),
    ).to.deep.equal([{ check: 'upscaled', until: undefined, reason: 'small' }]);
  });

  it('hold on their pages, for their images, below their bytes, to the end of their day', () => {
    const find = (rule: object, today = '2026-06-15', saves = 5000) =>
      new Exceptions(
        [{ check: 'older-format', ...rule }],
        new Map([
          ['.x', new Set(['/a/#1'])],
          ['.y', new Set<string>()],
        ]),
        today,
      ).find('older-format', placement, () => saves);
    expect(find({})).to.deep.equal({
      check: 'older-format',
      placement: '/a/#1',
      reason: '',
      until: null,
      expired: false,
    });
    expect(find({ check: 'upscaled' })).to.equal(undefined);
    expect(find({ check: '*' })?.check).to.equal('older-format');
    expect(find({ holdsOn: (page: string) => page === '/b/' })).to.equal(undefined);
    expect(find({ selector: '.x' })).to.include({ expired: false });
    expect(find({ selector: '.y' })).to.equal(undefined);
    expect(find({ below: 5000 })).to.equal(undefined);
    expect(find({ below: 5001 })).to.include({ expired: false });
    expect(find({ until: '2026-06-15' })).to.include({ expired: false });
    expect(find({ until: '2026-06-14' })).to.include({ expired: true });
  });
});
