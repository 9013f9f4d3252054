import { expect } from 'chai';
import { asJson } from '../../src/report/as-json.js';
import { plainText } from '../../src/report/plain-text.js';

/** What terminals obey: C0 and C1 control characters, DEL, and what turns the reading direction. */
const obeyed = [
  ...Array.from({ length: 0x20 }, (_, code) => code),
  ...Array.from({ length: 0x21 }, (_, index) => 0x7f + index),
  0x200e,
  0x200f,
  ...Array.from({ length: 5 }, (_, index) => 0x202a + index),
  ...Array.from({ length: 4 }, (_, index) => 0x2066 + index),
].map((code) => String.fromCharCode(code));

describe('texts of pages', () => {
  it('have no character that a terminal obeys', () => {
    for (const character of obeyed) {
      const text = plainText(`a${character}b`);
      expect(text).to.equal(`a\\u{${character.charCodeAt(0).toString(16)}}b`);
      expect(asJson({ alt: `a${character}b` })).to.not.contain(character === '\n' ? 'a\nb' : character);
    }
  });

  it('are the same for whoever reads the JSON', () => {
    const value = { alt: obeyed.join('|') + 'Hütte 山小屋 🏔' };
    expect(JSON.parse(asJson(value))).to.deep.equal(value);
    expect(asJson(value)).to.contain('山小屋 🏔');
  });
});
