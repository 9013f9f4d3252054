import { expect } from 'chai';
import sharp from 'sharp';
import { readImageFacts } from '../../dist/src/images/index.js';

const plain = () => sharp({ create: { width: 64, height: 48, channels: 3, background: '#357' } });
const exif = { IFD0: { Copyright: 'Norrfell Huts', ImageDescription: 'x'.repeat(300) } };
const facts = (content: Buffer) => readImageFacts('/a', content);
const sum = (kinds: Record<string, number>) => Object.values(kinds).reduce((total, each) => total + each, 0);

/** A segment of a JPEG file. */
function segment(marker: number, body: string): Buffer {
  const head = Buffer.from([0xff, marker, 0, 0]);
  head.writeUInt16BE(body.length + 2, 2);
  return Buffer.concat([head, Buffer.from(body, 'latin1')]);
}

/** A chunk of a PNG file; decoders that only read facts do not look at the checksum of text. */
function chunk(type: string, body: string): Buffer {
  const length = Buffer.alloc(4);
  length.writeUInt32BE(body.length);
  return Buffer.concat([length, Buffer.from(type + body, 'latin1'), Buffer.alloc(4)]);
}

describe('metadata in containers', () => {
  for (const format of ['jpeg', 'png', 'webp', 'avif'] as const) {
    it(`counts the camera notes of a ${format.toUpperCase()}: what the file is larger by`, async () => {
      const bare = await plain().toFormat(format).toBuffer();
      const noted = await plain().withExif(exif).toFormat(format).toBuffer();
      const { metadata } = await facts(noted);
      const before = sum((await facts(bare)).metadata);
      // Boxes and chunks beside the notes may grow by some bytes too.
      expect(sum(metadata) - before).to.be.closeTo(noted.length - bare.length, format === 'avif' ? 80 : 40);
      expect(Object.keys(metadata)).to.include('camera notes');
    });
  }

  it('names the kinds in a JPEG, to the byte', async () => {
    const bare = await plain().jpeg().toBuffer();
    const content = Buffer.concat([
      bare.subarray(0, 2),
      segment(0xe1, `Exif\0\0${'e'.repeat(100)}`),
      segment(0xe1, `http://ns.adobe.com/xap/1.0/\0${'x'.repeat(200)}`),
      segment(0xed, 'Photoshop 3.0\0captions'),
      segment(0xfe, 'made by hand'),
      bare.subarray(2),
      Buffer.alloc(500, 7),
    ]);
    const { metadata } = await facts(content);
    // Four bytes of marker and length before each body.
    expect(metadata).to.deep.equal({
      'camera notes': 106 + 4,
      captions: 22 + 4,
      comments: 12 + 4,
      'editing history': 229 + 4,
      'previews and other data after the picture': 500,
    });
  });

  it('names texts in a PNG', async () => {
    const bare = await plain().png().toBuffer();
    const end = bare.length - 12;
    const content = Buffer.concat([
      bare.subarray(0, end),
      chunk('tEXt', `Comment\0${'t'.repeat(80)}`),
      bare.subarray(end),
    ]);
    expect(sum((await facts(content)).metadata)).to.equal(88 + 12);
  });

  it('reads a colour profile as what it is', async () => {
    const { metadata } = await facts(await plain().withIccProfile('p3').jpeg().toBuffer());
    expect(metadata['colour profile']).to.be.above(400);
    expect(Object.keys(metadata)).to.deep.equal(['colour profile']);
  });

  it('tells a profile that says sRGB from one of a wider range that is no larger', async () => {
    const kinds = async (profile: string) => {
      const { metadata } = await facts(await plain().withIccProfile(profile).jpeg().toBuffer());
      return Object.keys(metadata);
    };
    expect(await kinds('srgb')).to.deep.equal(['sRGB profile']);
    expect(await kinds('p3')).to.deep.equal(['colour profile']);
    expect(await kinds('cmyk')).not.to.include('sRGB profile');
  });

  it('takes for sRGB only what has its colours and its curve', async () => {
    const content = await plain().withIccProfile('srgb').jpeg().toBuffer();
    const at = content.indexOf(Buffer.from('rTRC')) + 4;
    const profile = content.indexOf('ICC_PROFILE\0') + 14;
    const curve = profile + content.readUInt32BE(at);
    const dull = Buffer.from(content);
    // A plain gamma of 1.8 in the place of the curve, one entry of 8.8 bits.
    dull.write('curv', curve, 'latin1');
    dull.writeUInt32BE(1, curve + 8);
    dull.writeUInt16BE(1.8 * 256, curve + 12);
    expect(Object.keys((await facts(dull)).metadata)).to.deep.equal(['colour profile']);
  });

  it('keeps apart what follows the picture as its gain map', async () => {
    const bare = await plain().jpeg().toBuffer();
    const index = segment(0xe2, `MPF\0${'m'.repeat(60)}`);
    const words = segment(
      0xe1,
      'http://ns.adobe.com/xap/1.0/\0<x xmlns:hdrgm="http://ns.adobe.com/hdr-gain-map/1.0/"/>',
    );
    const content = Buffer.concat([bare.subarray(0, 2), index, words, bare.subarray(2), bare]);
    const { metadata } = await facts(content);
    expect(metadata).to.deep.equal({ 'gain map': index.length + words.length + bare.length });
    // The same index of pictures without those words speaks of previews.
    const plainPreviews = Buffer.concat([bare.subarray(0, 2), index, bare.subarray(2), bare]);
    expect((await facts(plainPreviews)).metadata).to.deep.equal({
      'camera notes': index.length,
      'previews and other data after the picture': bare.length,
    });
  });
});

describe('files that are cut short', () => {
  const picture = () =>
    sharp(Buffer.from(Uint8Array.from({ length: 9000 }, (_, index) => (index * index * 31) % 253)), {
      raw: { width: 60, height: 50, channels: 3 },
    });

  for (const format of ['jpeg', 'png', 'gif', 'webp', 'avif'] as const) {
    it(`are told from whole ones: ${format.toUpperCase()}`, async () => {
      const whole = await picture().toFormat(format).toBuffer();
      expect((await facts(whole)).truncated).to.equal(false);
      for (const share of [0.5, 0.8, 0.95])
        expect((await facts(whole.subarray(0, Math.floor(whole.length * share)))).truncated).to.equal(true);
    });
  }

  it('are told of a bitmap by the length in its header', async () => {
    const whole = Buffer.alloc(54 + 48);
    whole.write('BM', 'latin1');
    whole.writeUInt32LE(whole.length, 2);
    whole.writeUInt32LE(54, 10);
    whole.writeUInt32LE(40, 14);
    whole.writeInt32LE(4, 18);
    whole.writeInt32LE(4, 22);
    whole.writeUInt16LE(24, 28);
    expect((await facts(whole)).truncated).to.equal(false);
    expect((await facts(whole.subarray(0, 80))).truncated).to.equal(true);
  });
});
