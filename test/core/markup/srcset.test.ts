import { expect } from 'chai';
import fc from 'fast-check';
import { parseSrcset } from '../../../src/core/markup/index.js';

/** Cases worked out by hand from the HTML standard, 4.8.4.3.10 "Parsing a srcset attribute". */
const good: [text: string, candidates: object[]][] = [
  ['', []],
  [' , ,', []],
  ['a', [{ url: 'a' }]],
  ['a,', [{ url: 'a' }]],
  ['a 1x', [{ url: 'a', density: 1 }]],
  ['a 100w', [{ url: 'a', width: 100 }]],
  ['a 100w 50h', [{ url: 'a', width: 100, height: 50 }]],
  ['a 50h 100w', [{ url: 'a', width: 100, height: 50 }]],
  [
    'a 1.5x, b .5x',
    [
      { url: 'a', density: 1.5 },
      { url: 'b', density: 0.5 },
    ],
  ],
  ['a 1e1x', [{ url: 'a', density: 10 }]],
  ['a,b 2x', [{ url: 'a,b', density: 2 }]],
  ['a, b 2x', [{ url: 'a' }, { url: 'b', density: 2 }]],
  ['a,,, b', [{ url: 'a' }, { url: 'b' }]],
  [',a 1x', [{ url: 'a', density: 1 }]],
  ['data:image/png;base64,AA== 2x, b', [{ url: 'data:image/png;base64,AA==', density: 2 }, { url: 'b' }]],
  [
    'a\t2x\n,\fb\r3x',
    [
      { url: 'a', density: 2 },
      { url: 'b', density: 3 },
    ],
  ],
  ['a 00100w', [{ url: 'a', width: 100 }]],
];

const bad: [text: string, why: RegExp][] = [
  ['a 0w', /above 0/],
  ['a -1w', /above 0/],
  ['a 1.5w', /above 0/],
  ['a +1w', /above 0/],
  ['a -1x', /neither a density/],
  ['a 1.x', /neither a density/],
  ['a +1x', /neither a density/],
  ['a 360px', /neither a density such as 2x nor a width such as 480w/],
  ['a 1x 2x', /two density/],
  ['a 100w 2x', /both a width and a density/],
  ['a 100w 200w', /two width/],
  ['a 50h', /needs a width/],
  ['a 50h 2x', /both a height and a density/],
  ['a foo', /not a descriptor/],
  ['a 100W', /not a descriptor/],
  ['a (b, c)', /not a descriptor/],
  ['a 2147483648w', /above 0/],
  ['a 1e400x', /neither a density/],
];

describe('srcset', () => {
  for (const [text, candidates] of good)
    it(`"${text}"`, () => expect(parseSrcset(text)).to.deep.equal({ candidates, errors: [] }));

  for (const [text, why] of bad)
    it(`"${text}" is dropped, and what follows is not`, () => {
      const { candidates, errors } = parseSrcset(`${text}, b 3x`);
      expect(candidates).to.deep.equal([{ url: 'b', density: 3 }]);
      expect(errors).to.have.length(1);
      expect(errors[0]?.why).to.match(why);
    });

  it('says where a bad candidate begins', () => {
    expect(parseSrcset('a 1x, bad 0w').errors[0]).to.include({ offset: 6, url: 'bad' });
  });

  it('reads back what it is given', () => {
    const url = fc.stringMatching(/^[a-z][a-z0-9/,.()-]{0,20}[a-z]$/);
    const candidates = fc.array(fc.record({ url, width: fc.integer({ min: 1, max: 9999 }) }), {
      minLength: 1,
    });
    fc.assert(
      fc.property(candidates, (list) => {
        const text = list.map((each) => `${each.url} ${each.width}w`).join(', ');
        expect(parseSrcset(text)).to.deep.equal({ candidates: list, errors: [] });
      }),
    );
  });

  it('takes any text without an error of its own', () => {
    fc.assert(fc.property(fc.string(), (text) => void parseSrcset(text)));
  });
});
