import { expect } from 'chai';
import { cacheLife, durationInWords } from '../../../src/core/headers/cache-life.js';

const nothing = { cacheControl: null, expiresIn: null, unchangedFor: null, etag: null, age: 0 };

describe('the life of an answer in a cache', () => {
  // RFC 9111, 4.2.1 and 4.2.2, worked out by hand.
  const cases: [what: string, told: Partial<typeof nothing> | object, seconds: number, asks: boolean][] = [
    ['max-age', { cacheControl: 'public, max-age=600' }, 600, false],
    ['max-age in quotes, and in capitals', { cacheControl: 'Max-Age="600"' }, 600, false],
    ['max-age less what it lay in caches', { cacheControl: 'max-age=600', age: 100 }, 500, false],
    ['an age beyond it', { cacheControl: 'max-age=60', age: 100 }, 0, false],
    ['max-age before Expires', { cacheControl: 'max-age=60', expiresIn: 9000 }, 60, false],
    ['Expires', { expiresIn: 9000 }, 9000, false],
    ['what shared caches are told', { cacheControl: 's-maxage=900', unchangedFor: 0 }, 0, true],
    ['no-cache, with a tag', { cacheControl: 'no-cache, max-age=900', etag: '"a"' }, 0, true],
    ['no-store', { cacheControl: 'no-store', etag: '"a"' }, 0, false],
    ['nothing', {}, 0, false],
    ['a tenth of the time that it has not changed', { unchangedFor: 864_000 }, 86_400, true],
    ['a max-age that is none', { cacheControl: 'max-age=soon', unchangedFor: 864_000 }, 86_400, true],
  ];
  for (const [what, told, seconds, asks] of cases)
    it(`is that of ${what}`, () => {
      expect(cacheLife({ ...nothing, ...told })).to.include({ seconds, asks });
    });

  it('is said as people say it', () => {
    const said = [0, 45, 60, 7200, 86_400, 604_800, 31_536_000].map(durationInWords);
    expect(said).to.deep.equal(['no time', '45 seconds', '1 minute', '2 hours', '1 day', '7 days', '1 year']);
  });
});
