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
});
