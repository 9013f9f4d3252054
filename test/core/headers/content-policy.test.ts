import { expect } from 'chai';
import { forbiddenBy, policiesOfHeader } from '../../../src/core/headers/content-policy.js';

const [attributes, changed, pictures] = ['style-attributes', 'changed-styles', 'inlined-pictures'];
const hash = "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='";

describe('Content policies', () => {
  // Content Security Policy Level 3: fallbacks of 6.8.3, inline behaviour of 6.7.3.2, schemes of 6.7.2.8.
  const cases: [string, (string | undefined)[]][] = [
    ['', []],
    ["script-src 'self'", []],
    ["default-src 'self'", [changed, pictures, attributes]],
    ["default-src 'self' 'unsafe-inline' data:", []],
    ["default-src 'none'; style-src 'self' 'unsafe-inline'; img-src 'self' data:", []],
    ["style-src 'self'", [changed, attributes]],
    ["STYLE-SRC 'self' 'Unsafe-Inline'; IMG-SRC DATA:", []],
    [`style-src 'unsafe-inline' ${hash}`, [changed, attributes]],
    [`style-src 'unsafe-inline' 'nonce-abc'`, [attributes]],
    ["style-src 'self'; style-src-attr 'unsafe-inline'", [changed]],
    ["style-src 'unsafe-inline'; style-src-elem 'self'", [changed]],
    ["style-src 'unsafe-inline'; style-src-attr 'none'", [attributes]],
    ['img-src *', [pictures]],
    ["img-src 'self'; img-src data:", [pictures]],
    ['  img-src\tdata: ; ', []],
  ];
  for (const [policy, forbidden] of cases)
    it(`of "${policy}" keep ${forbidden.join(', ') || 'nothing'} from working`, () => {
      expect(forbiddenBy([policy])).to.deep.equal(forbidden);
    });

  it('must all allow what a document does', () => {
    const header = policiesOfHeader("default-src https:, img-src 'self' data:; style-src 'self'");
    expect(forbiddenBy(header)).to.deep.equal([changed, pictures, attributes]);
    expect(forbiddenBy(["img-src 'self'", "style-src 'unsafe-inline'"])).to.deep.equal([pictures]);
  });
});
