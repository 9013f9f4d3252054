import { expect } from 'chai';
import { readEncodedText, writeEncodedText } from '../../src/site/index.js';

/** The same tag as each encoding writes it: bytes from the tables of the Encoding standard. */
const cases = [
  { name: 'windows-1252', declared: 'iso-8859-1', text: 'Hütte – 5 €', bytes: '48fc747465209620352080' },
  { name: 'shift_jis', declared: 'shift_jis', text: '山小屋ソ', bytes: '8e528fac89ae835c' },
  { name: 'koi8-r', declared: 'koi8-r', text: 'Изба', bytes: 'e9dac2c1' },
] as const;

const pageOf = (charset: string, bytes: string) =>
  Buffer.concat([
    Buffer.from(`<meta charset="${charset}"><p>`),
    Buffer.from(bytes, 'hex'),
    Buffer.from('</p>'),
  ]);

describe('texts in other encodings', () => {
  for (const { name, declared, text, bytes } of cases)
    it(`come back byte for byte, and take edits: ${name}`, () => {
      const content = pageOf(declared, bytes);
      const read = readEncodedText(content);
      expect(read?.text).to.equal(`<meta charset="${declared}"><p>${text}</p>`);
      expect(read && writeEncodedText(read)).to.deep.equal(content);
      const edited = read && writeEncodedText({ ...read, text: read.text.replace('<p>', '<p id="a">') });
      const [head, tail] = content.toString('latin1').split('<p>');
      expect(edited?.toString('latin1')).to.equal(`${head}<p id="a">${tail}`);
    });

  it('keep a byte order mark', () => {
    for (const content of [
      Buffer.from('\ufeff<p>é', 'utf8'),
      Buffer.from('\ufeff<p>é', 'utf16le'),
      Buffer.from('\ufeff<p>é', 'utf16le').swap16(),
    ]) {
      const read = readEncodedText(content);
      expect(read?.text).to.equal('\ufeff<p>é');
      expect(read && writeEncodedText(read)).to.deep.equal(content);
    }
  });

  it('are not edited where bytes would be lost, nor with characters that they lack', () => {
    expect(readEncodedText(Buffer.from([0x3c, 0x70, 0x3e, 0xff, 0xc3]))).to.equal(undefined);
    expect(writeEncodedText({ text: 'Łódź', encoding: 'windows-1252' })).to.equal(undefined);
  });
});
