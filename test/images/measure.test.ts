import { expect } from 'chai';
import sharp from 'sharp';
import { measureOrder, measurePicture, readImageFacts } from '../../dist/src/images/index.js';
import { photo } from '../support/program.js';

async function measure(content: Buffer, widths: number[], formats = ['avif', 'webp']) {
  const file = await readImageFacts('/a', content);
  return measurePicture(content, measureOrder(file, { widths, looks: 73, formats, drawings: ['webp'] }));
}

const drawing = (width: number, height: number) =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><rect width="100%" height="100%" fill="#fff"/><g fill="none" stroke="#123" stroke-width="3"><circle cx="120" cy="90" r="60"/><path d="M10 10L${width - 10} ${height - 10}M10 ${height / 2}H${width}"/></g></svg>`,
    ),
  );

describe('measuring pictures', function () {
  this.timeout(60_000);

  it('gives the bytes of the encode that it names', async () => {
    const content = await photo(800, 600, 92);
    const { formats, alike, content: kind } = await measure(content, [400]);
    expect(kind).not.to.equal('graphic');
    const pixels = sharp(content).resize({ width: 400, fastShrinkOnLoad: false });
    const [avif] = formats['avif'] ?? [];
    const real = await pixels
      .clone()
      .avif({ quality: avif?.quality ?? 0, effort: 0, chromaSubsampling: '4:2:0' })
      .toBuffer();
    expect(avif?.bytes).to.be.closeTo(real.length, real.length * 0.05);
    const jpeg = await pixels.clone().jpeg({ quality: 92, progressive: true }).toBuffer();
    expect(alike[0]?.bytes).to.be.closeTo(jpeg.length, jpeg.length * 0.02);
    expect(formats['jpeg']?.[0]?.quality).to.equal(73);
  });

  it('stores drawings without loss only', async () => {
    const content = await drawing(600, 400).png().toBuffer();
    const { formats, content: kind } = await measure(content, [600]);
    expect(kind).to.equal('graphic');
    expect(Object.keys(formats).sort()).to.deep.equal(['png', 'webp']);
    for (const [point] of Object.values(formats)) expect(point?.quality).to.equal(null);
  });

  it('prices a transparent photograph without JPEG, which would paint its ground', async () => {
    const photograph = await sharp(await photo(300, 300))
      .ensureAlpha(0.6)
      .png()
      .toBuffer();
    const { formats } = await measure(photograph, [200], ['avif', 'webp']);
    expect(Object.keys(formats)).to.include.members(['avif', 'webp']);
    expect(Object.keys(formats)).not.to.include('jpeg');
  });

  it('takes inks and 16 bits as what browsers show', async () => {
    for (const space of ['cmyk', 'rgb16'] as const) {
      const picture = sharp(await photo(300, 200)).toColourspace(space);
      const content = await (space === 'cmyk' ? picture.jpeg() : picture.png()).toBuffer();
      expect((await measure(content, [200])).formats['avif']?.[0]?.bytes).to.be.above(100);
    }
  });

  it('measures nothing of a picture that is all container', async () => {
    const dot = await sharp({ create: { width: 1, height: 1, channels: 3, background: '#fff' } })
      .png()
      .toBuffer();
    expect((await measure(dot, [1])).formats).to.deep.equal({});
  });

  it('estimates a long animation from its first pictures, and says so', async () => {
    const frames = await Promise.all(
      Array.from({ length: 1000 }, (_, index) =>
        sharp({
          create: {
            width: 200,
            height: 160,
            channels: 3,
            background: { r: (index * 37) % 256, g: (index * 101) % 256, b: 40 },
          },
        })
          .png()
          .toBuffer(),
      ),
    );
    const content = await sharp(frames, { join: { animated: true } })
      .gif()
      .toBuffer();
    const { formats, notes } = await measure(content, [200]);
    // 24 megapixels are 750 pictures of 200 × 160 px.
    expect(notes).to.deep.equal([
      'Only the first 750 of 1000 pictures were encoded; the rest is estimated from them.',
    ]);
    expect(formats['webp']?.[0]?.bytes).to.be.above(0);
  });

  it('cleans a vector picture without asking for what it refers to', async () => {
    const waste = '<!-- a long note of the editor -->'.repeat(50);
    const content = Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="90" height="90">${waste}<image href="http://127.0.0.1:9/none.png" width="9" height="9"/><image href="data:image/png;base64,${'A'.repeat(4000)}" width="9" height="9"/><path d="M10.123456 10.654321L20.5 20.5"/></svg>`,
    );
    const { formats, notes } = await measure(content, [90]);
    expect(formats['svg']?.[0]?.bytes).to.be.below(content.length / 4);
    expect(notes).to.deep.equal(['1 embedded picture of 4 kB']);
  });

  it('fails on a cut-off picture with the decoder’s reason', async () => {
    const whole = await photo(400, 300);
    const file = await readImageFacts('/a', whole);
    const order = measureOrder(file, { widths: [200], looks: 73, formats: ['avif'], drawings: [] });
    let failure = '';
    await measurePicture(Buffer.from('not a picture'), order).catch(
      (cause: Error) => (failure = cause.message),
    );
    expect(failure).to.match(/unsupported image format/);
  });
});
