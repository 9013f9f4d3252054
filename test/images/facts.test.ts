import { crc32, deflateSync } from 'node:zlib';
import { expect } from 'chai';
import sharp from 'sharp';
import { readImageFacts } from '../../dist/src/images/index.js';
import { photo } from '../support/program.js';

const noise = (width: number, height: number, channels: 1 | 2 | 3 | 4) =>
  sharp(
    Buffer.from(Uint8Array.from({ length: width * height * channels }, (_, index) => (index * 7919) % 251)),
    { raw: { width, height, channels } },
  );
const facts = (content: Buffer) => readImageFacts('/a', content);

/** A PNG chunk with its checksum. */
function chunk(type: string, body: Buffer): Buffer {
  const named = Buffer.concat([Buffer.from(type, 'latin1'), body]);
  const [length, check] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(body.length);
  check.writeUInt32BE(crc32(named));
  return Buffer.concat([length, named, check]);
}

/** A PNG of a few bytes that promises a size. */
function promising(width: number, height: number): Buffer {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header.set([8, 2, 0, 0, 0], 8);
  return Buffer.concat([
    Buffer.from('89504e470d0a1a0a', 'hex'),
    chunk('IHDR', header),
    chunk('IDAT', deflateSync(Buffer.alloc(100))),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

describe('the facts of an image file', () => {
  it('turn a picture that lies on its side', async () => {
    const content = await noise(40, 20, 3).withMetadata({ orientation: 6 }).jpeg().toBuffer();
    expect(await facts(content)).to.include({ width: 20, height: 40, format: 'jpeg' });
  });

  // What the encoder was told is not in the file; its quantisers are, from which it follows within some steps.
  for (const quality of [20, 40, 60, 75, 82, 90, 100])
    it(`tell a WebP of quality ${quality}, with and without transparency, by its quantisers`, async () => {
      const opaque = sharp(await photo(400, 300));
      for (const picture of [opaque, opaque.clone().ensureAlpha(0.5)]) {
        const told = (await facts(await picture.webp({ quality }).toBuffer())).quality;
        expect(told).to.be.closeTo(quality, 8);
      }
    });

  it('tell no quality of a WebP that loses nothing, that moves or that is broken', async () => {
    const lossless = await noise(40, 20, 3).webp({ lossless: true }).toBuffer();
    expect((await facts(lossless)).quality).to.equal(null);
    const still = (background: string) =>
      sharp({ create: { width: 40, height: 20, channels: 3, background } })
        .png()
        .toBuffer();
    const moving = await sharp(await Promise.all(['#a00', '#0a0'].map(still)), { join: { animated: true } })
      .webp({ quality: 50 })
      .toBuffer();
    expect(await facts(moving)).to.include({ frames: 2, quality: null });
    const whole = await noise(40, 20, 3).webp({ quality: 50 }).toBuffer();
    expect((await facts(whole.subarray(0, 26))).quality).to.equal(null);
  });

  it('tell 16 bits, gray and CMYK', async () => {
    const deep = await noise(20, 20, 3).toColourspace('rgb16').png().toBuffer();
    expect((await facts(deep)).bitDepth).to.equal(16);
    const inks = await noise(20, 20, 3).toColourspace('cmyk').jpeg().toBuffer();
    expect((await facts(inks)).colourSpace).to.equal('cmyk');
    const gray = await noise(20, 20, 1).toColourspace('b-w').png().toBuffer();
    expect((await facts(gray)).colourSpace).to.equal('b-w');
  });

  it('tell an alpha channel that is used from one that is only there', async () => {
    const opaque = await noise(20, 20, 3).ensureAlpha(1).png().toBuffer();
    const clear = await noise(20, 20, 3).ensureAlpha(0.5).png().toBuffer();
    expect((await facts(opaque)).alpha).to.equal('unused');
    expect((await facts(clear)).alpha).to.equal('used');
    expect((await facts(await noise(20, 20, 3).png().toBuffer())).alpha).to.equal('none');
    const grayAlpha = await noise(20, 20, 2).toColourspace('b-w').png().toBuffer();
    expect((await facts(grayAlpha)).alpha).to.equal('used');
  });

  it('count the pictures of an animation, each of its own height', async () => {
    const pages = await Promise.all(
      [1, 2, 3].map((shade) =>
        sharp({ create: { width: 30, height: 20, channels: 3, background: { r: shade * 60, g: 0, b: 0 } } })
          .png()
          .toBuffer(),
      ),
    );
    const content = await sharp(pages, { join: { animated: true } })
      .gif()
      .toBuffer();
    expect(await facts(content)).to.include({ frames: 3, animated: true, width: 30, height: 20 });
  });

  it('read bitmaps and icons, which the decoder does not', async () => {
    const bitmap = Buffer.alloc(54);
    bitmap.write('BM', 0, 'latin1');
    bitmap.writeUInt32LE(40, 14);
    bitmap.writeInt32LE(12, 18);
    bitmap.writeInt32LE(-9, 22);
    expect(await facts(bitmap)).to.include({ format: 'bmp', width: 12, height: 9 });
    const icon = Buffer.alloc(6 + 32);
    icon.set([0, 0, 1, 0, 2, 0], 0);
    icon.set([16, 16], 6);
    icon.set([0, 0], 22);
    expect(await facts(icon)).to.include({ format: 'ico', width: 256, height: 256 });
  });

  it('name what is wrong with a file that is no picture', async () => {
    const problem = async (content: Buffer) => (await facts(content)).problem;
    expect(await problem(Buffer.alloc(0))).to.equal('the file is empty');
    expect(await problem(Buffer.from('<!doctype html><p>Moved'))).to.equal(
      'the file is an HTML page, not an image',
    );
    expect(await problem(Buffer.from('GARBAGE!'.repeat(9)))).to.equal(
      'the file is not an image of a known format',
    );
    expect(await problem(promising(60_000, 60_000))).to.match(/more than 268 megapixels/);
  });

  it('never fail, whatever is cut off a file', async () => {
    for (const format of ['jpeg', 'png', 'webp', 'avif', 'gif'] as const) {
      const whole = await noise(64, 64, 3).toFormat(format).toBuffer();
      for (const share of [0.02, 0.1, 0.5, 0.9])
        expect(await facts(whole.subarray(0, Math.ceil(whole.length * share)))).to.have.property('bytes');
    }
  });
});
