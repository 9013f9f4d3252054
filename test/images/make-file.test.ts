import { expect } from 'chai';
import sharp, { type Sharp } from 'sharp';
import { makeFile, readImageFacts } from '../../dist/src/images/index.js';
import { photo } from '../support/program.js';

const credits = { Artist: 'A. Walker', Copyright: 'Norrfell Huts, CC BY 4.0' };

const noted = (from: Sharp) => from.withExif({ IFD0: { ...credits, ImageDescription: 'x'.repeat(3000) } });

/** As Exif writes text: ASCII behind the block's header. */
const exifOf = async (content: Buffer) => (await sharp(content).metadata()).exif?.toString('latin1') ?? '';

const order = { name: '/made', from: '/a', error: 0, bytes: 0 };

describe('files as they are made', () => {
  for (const format of ['jpeg', 'png'] as const)
    it(`keep author and licence where that is wanted, and nothing else: ${format.toUpperCase()}`, async () => {
      const content = await noted(sharp(await photo(90, 60)))
        .toFormat(format)
        .toBuffer();
      const master = await readImageFacts('/a', content);
      const bare = { ...order, recipe: 'bare' as const, width: 90, format, quality: null };
      const [kept, dropped] = [
        await makeFile(content, bare, master, { keepCredits: true }),
        await makeFile(content, bare, master),
      ];
      expect(await exifOf(kept.content))
        .to.contain(credits.Artist)
        .and.to.contain(credits.Copyright);
      expect(await exifOf(kept.content)).to.not.contain('xxxx');
      expect(await exifOf(dropped.content)).to.equal('');
      const raw = (file: Buffer) => sharp(file).raw().toBuffer();
      expect((await raw(kept.content)).equals(await raw(content))).to.equal(true);
    });

  it('lose a profile that says only sRGB, as was said, and keep one that says more', async () => {
    for (const format of ['jpeg', 'png', 'webp'] as const)
      for (const profile of ['srgb', 'p3']) {
        const content = await noted(sharp(await photo(90, 60)))
          .withIccProfile(profile)
          .toFormat(format)
          .toBuffer();
        const master = await readImageFacts('/a', content);
        const bare = { ...order, recipe: 'bare' as const, width: 90, format, quality: null };
        const made = await makeFile(content, bare, master);
        const goes = Object.entries(master.metadata).filter(([kind]) => kind !== 'colour profile');
        const bytes = goes.reduce((sum, [, own]) => sum + own, 0);
        expect(made.content.length, `${format} ${profile}`).to.equal(content.length - bytes);
        const { icc } = await sharp(made.content).metadata();
        expect(icc !== undefined, `${format} ${profile}`).to.equal(profile === 'p3');
      }
  });

  it('keep author and licence in one block with how a JPEG is turned', async () => {
    const content = await sharp(await photo(90, 60))
      .withMetadata({ orientation: 6 })
      .withExifMerge({ IFD0: credits })
      .jpeg()
      .toBuffer();
    const master = await readImageFacts('/a', content);
    const bare = { ...order, recipe: 'bare' as const, width: 60, format: 'jpeg', quality: null };
    const made = await makeFile(content, bare, master, { keepCredits: true });
    expect((await sharp(made.content).metadata()).orientation).to.equal(6);
    expect(await exifOf(made.content)).to.contain(credits.Copyright);
  });

  it('take author and licence along into another format', async () => {
    const content = await noted(sharp(await photo(300, 200)))
      .jpeg()
      .toBuffer();
    const master = await readImageFacts('/a', content);
    for (const format of ['jpeg', 'webp', 'avif']) {
      const wanted = { ...order, recipe: 'equal-looks' as const, width: 200, format, quality: 60 };
      const made = await makeFile(content, wanted, master, { keepCredits: true });
      expect(await exifOf(made.content), format).to.contain(credits.Copyright);
      expect(await exifOf((await makeFile(content, wanted, master)).content), format).to.equal('');
    }
  });

  it('are lighter and look no worse when encoders take their time', async () => {
    const content = await photo(600, 400, 95);
    const master = await readImageFacts('/a', content);
    let lighter = 0;
    for (const [format, quality] of [
      ['jpeg', 73],
      ['webp', 80],
      ['avif', 60],
    ] as const) {
      const wanted = { ...order, recipe: 'equal-looks' as const, width: 600, format, quality };
      const usual = await makeFile(content, wanted, master);
      const patient = await makeFile(content, wanted, master, { thorough: true });
      expect(patient.content.length, format).to.be.at.most(usual.content.length);
      expect(patient.decibels, format).to.be.at.least((usual.decibels ?? 0) - 0.05);
      if (patient.content.length < usual.content.length) lighter++;
    }
    expect(lighter).to.be.above(0);
  });
});
