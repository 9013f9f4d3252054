import { expect } from 'chai';
import sharp, { type Sharp } from 'sharp';
import { bareFile } from '../../dist/src/images/containers/bare.js';
import { readImageFacts } from '../../dist/src/images/index.js';

const picture = () =>
  sharp(Buffer.from(Uint8Array.from({ length: 9000 }, (_, index) => (index * index * 31) % 253)), {
    raw: { width: 60, height: 50, channels: 3 },
  });
const noted = (from: Sharp) =>
  from.withExif({ IFD0: { Copyright: 'Norrfell Huts', ImageDescription: 'x'.repeat(400) } });
const pixels = (content: Buffer) => sharp(content).autoOrient().raw().toBuffer();
const nothing = () => false;

describe('files without what they carry', () => {
  for (const format of ['jpeg', 'png', 'webp'] as const)
    it(`keep their picture byte for byte: ${format.toUpperCase()}`, async () => {
      const content = await noted(picture()).toFormat(format).toBuffer();
      const { metadata } = await readImageFacts('/a', content);
      const carried = Object.values(metadata).reduce((sum, each) => sum + each, 0);
      const bare = bareFile(content, format, nothing, 1);
      expect(carried).to.be.above(400);
      expect(bare.length).to.equal(content.length - carried);
      expect((await readImageFacts('/a', bare)).metadata).to.deep.equal({});
      expect((await pixels(bare)).equals(await pixels(content))).to.equal(true);
    });

  it('keep how a JPEG is turned, in 36 bytes', async () => {
    const content = await noted(picture()).withMetadata({ orientation: 6 }).jpeg().toBuffer();
    const bare = bareFile(content, 'jpeg', nothing, 6);
    expect((await sharp(bare).metadata()).orientation).to.equal(6);
    expect((await pixels(bare)).equals(await pixels(content))).to.equal(true);
    const upright = bareFile(content, 'jpeg', nothing, 1);
    expect(bare.length - upright.length).to.equal(36);
  });

  it('keep a profile of a wide range of colours, and the gain map', async () => {
    const wide = await picture().withIccProfile('p3').jpeg().toBuffer();
    const kept = bareFile(wide, 'jpeg', (kind) => kind === 'colour profile', 1);
    expect((await sharp(kept).metadata()).icc).to.not.equal(undefined);
    expect((await sharp(bareFile(wide, 'jpeg', nothing, 1)).metadata()).icc).to.equal(undefined);
  });

  it('drop comments of a GIF, and leave its pictures', async () => {
    const content = await picture().gif().toBuffer();
    const comment = Buffer.from('\x21\xfe\x05hello\x00', 'latin1');
    // Behind the header, the screen descriptor and the table of colours.
    const at = 13 + 3 * 2 ** (((content[10] ?? 0) & 7) + 1);
    const with_ = Buffer.concat([content.subarray(0, at), comment, content.subarray(at)]);
    expect(bareFile(with_, 'gif', nothing, 1).equals(content)).to.equal(true);
  });

  it('refuse what they cannot keep', () => {
    expect(() => bareFile(Buffer.alloc(20), 'avif', nothing, 1)).to.throw(/nothing can be taken out of AVIF/);
    expect(() => bareFile(Buffer.alloc(20), 'png', nothing, 6)).to.throw(/stored turned/);
  });
});
