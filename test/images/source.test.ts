import { expect } from 'chai';
import sharp from 'sharp';
import { decodeAt } from '../../dist/src/images/encode.js';
import { Source } from '../../dist/src/images/source.js';
import { photo } from '../support/program.js';

describe('a picture of which several widths are wanted', () => {
  it('gives the very pixels that the file gives at each of them', async () => {
    const plain = sharp(await photo(600, 422, 95));
    const kinds: Record<string, Buffer> = {
      jpeg: await plain.clone().jpeg().toBuffer(),
      turned: await plain.clone().withMetadata({ orientation: 6 }).jpeg().toBuffer(),
      gray: await plain.clone().grayscale().png().toBuffer(),
      transparent: await plain.clone().ensureAlpha(0.6).png().toBuffer(),
      inks: await plain.clone().toColourspace('cmyk').jpeg().toBuffer(),
      deep: await plain.clone().toColourspace('rgb16').png().toBuffer(),
      'of many colours': await plain.clone().withIccProfile('p3').webp().toBuffer(),
      avif: await plain.clone().avif({ effort: 0 }).toBuffer(),
      gif: await plain.clone().gif({ effort: 1 }).toBuffer(),
    };
    for (const [name, content] of Object.entries(kinds)) {
      const { autoOrient, hasAlpha } = await sharp(content).metadata();
      const source = new Source(content, hasAlpha);
      for (const width of [autoOrient.width, Math.round(autoOrient.width * 0.9), 211, 150, 60]) {
        const direct = await decodeAt(content, width, hasAlpha);
        const kept = await source.at(width);
        expect({ ...kept, data: undefined }, `${name} at ${width} px`).to.deep.equal({
          ...direct,
          data: undefined,
        });
        expect(
          Buffer.compare(Buffer.from(kept.data), Buffer.from(direct.data)),
          `${name} at ${width} px`,
        ).to.equal(0);
      }
    }
  });
});
