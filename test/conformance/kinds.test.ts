import { expect } from 'chai';
import sharp from 'sharp';
import { measureOrder, measurePicture, readImageFacts } from '../../dist/src/images/index.js';
import { cutOut, pictureOfKind, shadedMap } from '../support/picture-kinds.js';

/** 400 photographs and as many drawings where more cases are asked for. */
const count = Number(process.env['YUKKURI_CASES'] ?? 0) >= 1000 ? 400 : 12;

async function measure(content: Buffer, widths: number[]) {
  const file = await readImageFacts('/a', content);
  const formats = ['avif', 'webp'];
  return measurePicture(content, measureOrder(file, { widths, looks: 73, formats, drawings: ['webp'] }));
}

describe('the kind of a picture', function () {
  this.timeout(600_000);

  it(`is never a drawing for any of ${count} photographs, smooth ones among them`, async () => {
    for (let seed = 1; seed <= count; seed++) {
      const { name, format, content } = await pictureOfKind('photograph', seed);
      expect((await measure(content, [])).content, `${seed}: ${name}, ${format}`).not.to.equal('graphic');
    }
  });

  it(`is never a photograph for ${count} drawings, and a drawing for most`, async () => {
    const found = { lossless: 0, losslessAll: 0, lossy: 0, lossyAll: 0 };
    for (let seed = 1; seed <= count; seed++) {
      const { name, format, content } = await pictureOfKind('drawing', seed);
      const { content: kind } = await measure(content, []);
      expect(kind, `${seed}: ${name}, ${format}`).not.to.equal('photo');
      const stored = format === 'png' ? 'lossless' : 'lossy';
      found[`${stored}All`]++;
      if (kind === 'graphic') found[stored]++;
    }
    expect(found.lossless / found.losslessAll).to.be.above(0.95);
    // After a lossy encoder a drawing is said to be one only where nothing speaks against it.
    expect(found.lossy / found.lossyAll).to.be.above(0.4);
  });

  it('is neither for a shaded map: storing it with losses is tried too, and takes less', async () => {
    const map = await shadedMap(3, 900, 600);
    const { content, formats } = await measure(await map.png().toBuffer(), [900]);
    expect(content).to.equal('between');
    expect(formats['avif']?.[0]?.quality).to.be.above(0);
    const lossless = await map.webp({ lossless: true }).toBuffer();
    expect(formats['avif']?.[0]?.bytes).to.be.below(lossless.length * 0.6);
  });
});

describe('prices of transparent pictures', function () {
  this.timeout(600_000);

  for (const name of ['portrait', 'shadow', 'panel'] as const)
    it(`are those of files that look the same on dark and on light pages (${name})`, async () => {
      const picture = await cutOut(name, 5, 500, 500);
      const { formats } = await measure(await picture.png().toBuffer(), [500]);
      for (const format of ['webp', 'avif'] as const) {
        const [point] = formats[format] ?? [];
        const quality = point?.quality ?? null;
        if (quality === null) continue;
        expect(quality).to.be.at.least(25);
        const real = await (
          format === 'webp'
            ? picture.clone().webp({ quality })
            : picture.clone().avif({ quality, effort: 0, chromaSubsampling: '4:2:0' })
        ).toBuffer();
        expect(point?.bytes, `${format} of quality ${quality}`).to.be.closeTo(
          real.length,
          real.length * 0.12,
        );
        // What a JPEG of the same looks loses on each ground bounds what this file may lose there.
        for (const ground of ['#000', '#fff']) {
          const flat = (content: Buffer) =>
            sharp(content).flatten({ background: ground }).greyscale().raw().toBuffer();
          const original = await flat(await picture.clone().png().toBuffer());
          const jpeg = await picture.clone().flatten({ background: ground }).jpeg({ quality: 73 }).toBuffer();
          const allowed = distance(original, await flat(jpeg));
          expect(distance(original, await flat(real)), `${format} on ${ground}`).to.be.below(allowed * 1.6);
        }
      }
    });
});

/** Root of the mean square of the differences, levels. */
const distance = (a: Buffer, b: Buffer) =>
  Math.sqrt(a.reduce((sum, value, index) => sum + (value - (b[index] ?? 0)) ** 2, 0) / a.length);
