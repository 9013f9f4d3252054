import { expect } from 'chai';
import sharp from 'sharp';
import { encode as encodeBitmap } from 'bmp-ts';
import { cleanVector } from '../../dist/src/images/clean-vector.js';
import { encode } from '../../dist/src/images/encode.js';
import { makeFile, measureOrder, measurePicture, readImageFacts } from '../../dist/src/images/index.js';
import { Original } from '../../dist/src/images/likeness.js';
import type { Pixels } from '../../dist/src/core/likeness/index.js';
import { photo } from '../support/program.js';
import { ridges } from '../support/varied-pictures.js';

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

  it('asks no more of a picture without losses that was a JPEG than of one that was not', async () => {
    const jpeg = await sharp(await photo(640, 480, 100))
      .jpeg({ quality: 73 })
      .toBuffer();
    const onGrid = await sharp(jpeg).png().toBuffer();
    // The same pixels but for four rows and columns: made a JPEG again, these lie on another grid of blocks.
    const besideGrid = await sharp(jpeg)
      .extract({ left: 4, top: 4, width: 636, height: 476 })
      .png()
      .toBuffer();
    const [on, beside] = [await measure(onGrid, [640], ['avif']), await measure(besideGrid, [636], ['avif'])];
    const decibels = ({ formats }: typeof on) => formats['jpeg']?.[0]?.decibels ?? 0;
    expect(decibels(on)).to.be.closeTo(decibels(beside), 1);
    // To be as like it as its own JPEG is, AVIF would take more than half as much again.
    const [large, small] = [on, beside].map(({ formats }) => formats['avif']?.[0]?.bytes ?? 0);
    expect(large).to.be.closeTo(small ?? 0, (small ?? 0) * 0.2);
  });

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

  it('reduces drawings to a palette where nobody sees that, for WebP too', async () => {
    // Discs in 60 colours with soft edges: more colours than a palette has.
    const discs = Array.from(
      { length: 60 },
      (_, index) =>
        `<circle cx="${60 + (index % 10) * 75}" cy="${50 + Math.floor(index / 10) * 80}" r="30.5" fill="hsl(${index * 6} 70% ${35 + (index % 5) * 8}%)"/>`,
    );
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="520"><rect width="100%" height="100%" fill="#f4f4f4"/>${discs.join('')}</svg>`;
    const content = await sharp(Buffer.from(svg)).removeAlpha().png().toBuffer();
    const { formats } = await measure(content, [800]);
    const [png, webp] = [formats['png']?.at(-1), formats['webp']?.at(-1)];
    const reduced = await sharp(content).png({ palette: true, dither: 0, compressionLevel: 9 }).toBuffer();
    const whole = await sharp(content).webp({ lossless: true }).toBuffer();
    const few = await sharp(reduced).webp({ lossless: true }).toBuffer();
    expect(few.length).to.be.below(whole.length * 0.95);
    expect(png).to.include({ bytes: reduced.length, palette: true });
    expect(webp).to.include({ bytes: few.length, palette: true });
    const order = {
      ...{ name: '/b.webp', from: '/a', width: 800, format: 'webp', recipe: 'equal-looks' as const },
      ...{ bytes: 0, quality: null, palette: true as const, error: 0 },
    };
    const made = await makeFile(content, order, await readImageFacts('/a', content));
    expect(made.content.length).to.equal(few.length);
  });

  it('looks for the quality with a sample first, and says of the whole what it is', async () => {
    // One with something everywhere, and one whose sample says little of it: noise in a corner, no more.
    const busyCorner = sharp({ create: { width: 1300, height: 900, channels: 3, background: '#5a7d9a' } })
      .composite([{ input: await photo(260, 180, 100), left: 1040, top: 0 }])
      .jpeg({ quality: 95 });
    for (const [content, spares] of [
      [await ridges(1400, 934, 95), true],
      [await busyCorner.toBuffer(), false],
    ] as const) {
      const file = await readImageFacts('/a', content);
      const order = measureOrder(file, { widths: [1200], looks: 73, formats: ['avif'], drawings: [] });
      let whole = 0;
      const watched: typeof encode = (pixels, recipe, options) => {
        if (recipe.format === 'avif' && pixels.width === 1200) whole++;
        return encode(pixels, recipe, options);
      };
      const { formats } = await measurePicture(content, order, watched);
      const sampled = formats['avif']?.[0];
      const encodes = whole;
      const exact = (await measurePicture(content, order, watched, false)).formats['avif']?.[0];
      if (spares) expect(encodes).to.be.below(whole - encodes);
      else expect(encodes).to.be.at.most(4);
      // What a JPEG of the whole has is what must be reached.
      expect(sampled?.decibels).to.be.closeTo(formats['jpeg']?.[0]?.decibels ?? 0, 0.4);
      expect(sampled?.atTarget).to.be.closeTo(exact?.atTarget ?? 0, 0.06 * (exact?.atTarget ?? 0));
    }
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
      Array.from({ length: 32 }, (_, index) =>
        sharp({
          create: {
            width: 1000,
            height: 800,
            channels: 3,
            background: { r: (index * 37) % 256, g: (index * 101) % 256, b: 40 },
          },
        })
          .png()
          .toBuffer(),
      ),
    );
    const content = await sharp(frames, { join: { animated: true } })
      .gif({ effort: 1 })
      .toBuffer();
    const { formats, notes } = await measure(content, [200]);
    // 24 megapixels are 30 pictures of 1000 × 800 px.
    expect(notes).to.deep.equal([
      'Only the first 30 of 32 pictures were encoded; the rest is estimated from them.',
    ]);
    expect(formats['webp']?.[0]?.bytes).to.be.above(0);
  });

  it('cleans a vector picture without asking for what it refers to', async () => {
    const waste = '<!-- a long note of the editor -->'.repeat(50);
    const content = Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="90" height="90">${waste}<image href="http://127.0.0.1:9/none.png" width="9" height="9"/><image href="data:image/png;base64,${'A'.repeat(4000)}" width="9" height="9"/><path d="M10.123456 10.654321L20.5 20.5H60"/></svg>`,
    );
    const { formats, notes } = await measure(content, [90]);
    expect(formats['svg']?.[0]?.bytes).to.be.below(content.length / 4);
    expect(notes[0]).to.equal('1 embedded picture of 3 kB');
  });

  it('cleans a drawing as coarsely as its units allow', async () => {
    const ring = (units: number) => {
      const points = Array.from({ length: 40 }, (_, index) => {
        const turn = (index / 40) * 2 * Math.PI;
        const radius = units * (index % 2 ? 0.42 : 0.3);
        return `${units / 2 + radius * Math.cos(turn)} ${units / 2 + radius * Math.sin(turn)}`;
      });
      return Buffer.from(
        `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${units} ${units}"><path d="M${points.join('L')}Z"/></svg>`,
      );
    };
    const decimals = async (units: number) => {
      const cleaned = await cleanVector(ring(units), units);
      const [before, after] = await Promise.all(
        [ring(units), Buffer.from(cleaned?.text ?? '')].map((content) =>
          sharp(content, { density: (72 * 1000) / units })
            .resize(1000)
            .flatten({ background: '#fff' })
            .greyscale()
            .raw()
            .toBuffer(),
        ),
      );
      const ink = (pixels: Buffer | undefined) => pixels?.reduce((sum, each) => sum + (255 - each), 0) ?? 0;
      expect(ink(after)).to.be.closeTo(ink(before), ink(before) * 0.005);
      return cleaned?.decimals ?? -1;
    };
    const [unit, icon, plan] = [await decimals(1), await decimals(24), await decimals(2000)];
    // A quarter of a px at a width of 1,000 px is 0.00025 of a unit that is the whole width.
    expect(unit).to.be.within(4, 5);
    expect(icon).to.be.within(2, 3);
    expect(plan).to.be.within(0, 1);
  });

  it('keeps the parts of a drawing that others ask for by name', async () => {
    const parts =
      '<svg xmlns="http://www.w3.org/2000/svg" width="90" height="90"><symbol id="star" viewBox="0 0 9 9"><path d="M1 1L8 8"/></symbol><rect width="90" height="40"/><view id="upper" viewBox="0 0 90 40"/></svg>';
    const { text = '' } = (await cleanVector(Buffer.from(parts), 90)) ?? {};
    expect(text).to.include('id="star"').and.to.include('id="upper"');
  });

  it('offers nothing of a drawing that shows nothing here', async () => {
    const empty = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="90" height="90"></svg>');
    const { formats, notes } = await measure(empty, [90]);
    expect(formats).to.deep.equal({});
    expect(notes).to.deep.equal(['no cleaned version that looks the same was found']);
  });

  it('weighs bitmaps and still GIFs as what could stand in their place', async () => {
    const photograph = await photo(400, 300);
    const { data, info } = await sharp(photograph).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    const bitmap = encodeBitmap({
      data: data.swap32(),
      width: info.width,
      height: info.height,
      bitPP: 24,
    }).data;
    const asPhoto = await measure(bitmap, [200], ['avif', 'jpeg']);
    expect(asPhoto.content).to.equal('photo');
    // Three bytes a px in rows of whole words, behind 54 bytes of header.
    expect(asPhoto.alike[0]?.bytes).to.be.closeTo(54 + 600 * 150, 2);
    const jpeg = await sharp(photograph).resize(200).jpeg({ quality: 73, progressive: true }).toBuffer();
    expect(asPhoto.formats['jpeg']?.[0]?.bytes).to.be.closeTo(jpeg.length, jpeg.length * 0.1);
    const gif = await drawing(600, 400).gif().toBuffer();
    const asDrawing = await measure(gif, [600], ['avif', 'webp']);
    expect(asDrawing.content).to.equal('graphic');
    expect(Object.keys(asDrawing.formats).sort()).to.deep.equal(['png', 'webp']);
  });

  it('sees colours that are lost while the brightness stays', async () => {
    // Red and green of one brightness, in tiles: 0.299 · 200 = 0.587 · 102.
    const tiles = Buffer.alloc(64 * 64 * 3);
    for (let index = 0; index < 64 * 64; index++)
      tiles[index * 3 + (((index >> 3) + (index >> 9)) % 2)] = ((index >> 3) + (index >> 9)) % 2 ? 102 : 200;
    const pixels: Pixels = { data: tiles, width: 64, height: 64, channels: 3 };
    const gray = await sharp(tiles, { raw: { width: 64, height: 64, channels: 3 } })
      .greyscale()
      .png()
      .toBuffer();
    const same = await sharp(tiles, { raw: { width: 64, height: 64, channels: 3 } })
      .png()
      .toBuffer();
    const original = new Original(pixels);
    expect(await original.decibels([same])).to.equal(60);
    expect(await original.decibels([gray])).to.be.below(20);
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
