import { expect } from 'chai';
import type { Screen } from '../../../src/core/run/index.js';
import { checks } from '../../../src/core/checks/index.js';
import { writeFixes } from '../../../src/core/judging/fixes.js';
import { judge } from '../../../src/core/judging/judge.js';
import {
  desk,
  drawnFixes,
  drawnWorld,
  flat,
  savingFixes,
  type DrawnImage,
} from '../../support/drawn-site.js';

const phone: Screen = { ...desk, name: 'phone', width: 400, height: 800, density: 2, share: 0.5 };
const wide: Screen = { ...desk, share: 0.5 };

/** An image of a styled box. */
const image = (src: string, slot: DrawnImage['slot'], more: Partial<DrawnImage> = {}): DrawnImage => ({
  markup: `<img src="${src}" alt="">`,
  slot,
  ...more,
});

const namesOf = (fixes: ReturnType<typeof savingFixes>) =>
  fixes.flatMap(({ files }) => files.map(({ name }) => name)).sort();

describe('a list of widths', () => {
  for (const kind of ['img', 'css-image'] as const)
    it(`brings back no metadata that was taken out: ${kind}`, () => {
      const slot: DrawnImage['slot'] = { phone: [400, 200], desk: [400, 200] };
      const style = '.a { background: url(a.jpg) center / cover }';
      const [fix, ...others] = savingFixes({
        screens: [phone, wide],
        files: { '/a.jpg': [800, 400, 200_000, { metadata: { 'camera notes': 30_000 } }] },
        images: [
          kind === 'img'
            ? image('a.jpg', slot, { sweep: { constant: 400 } })
            : { markup: style, kind, slot, fit: 'cover' },
        ],
      });
      expect(others).to.deep.equal([]);
      expect(fix?.checks).to.include.members(['carried-metadata', 'more-pixels-than-needed']);
      const [place] = fix?.places ?? [];
      expect(place?.takes['phone']).to.include({ after: '/a-bare.jpg', bytes: 170_000 });
      expect(place?.takes['desk']?.after).to.equal('/a-400.jpg');
    });
});

describe('a lossy file beside the lossless one that it was made of', () => {
  const site = (slot: [number, number]) => ({
    files: {
      '/a.avif': [800, 400, 60_000] as [number, number, number],
      '/a.png': [800, 400, 200_000] as [number, number, number],
    },
    images: [
      {
        markup:
          '<picture><source type="image/avif" srcset="a.avif"><img src="a.png" width="800" height="400" alt=""></picture>',
        slot,
      },
    ],
  });

  it('is held against that, and not against itself', () => {
    // At equal looks an AVIF of the PNG takes six tenths of it, twice what there is; one of the AVIF six tenths of that.
    expect(savingFixes(site([800, 400]))).to.deep.equal([]);
  });

  it('is held against the widest there is, though beside a list it is no candidate', () => {
    const [image] = site([800, 400]).images;
    const list = 'src="b.png" srcset="a.png 800w"';
    const fixes = savingFixes({
      files: { ...site([800, 400]).files, '/b.png': [1600, 800, 250_000] },
      images: [
        { ...image, slot: [300, 150], markup: image?.markup.replace('src="a.png"', list) ?? '' },
      ] as DrawnImage[],
    });
    const files = fixes.flatMap((fix) => fix.files).filter(({ format }) => format === 'avif');
    expect(files.map(({ from, width }) => [from, width])).to.deep.equal([['/b.png', 300]]);
  });

  it('has its smaller widths made of that', () => {
    const files = savingFixes(site([300, 150])).flatMap((fix) => fix.files);
    const made = files.map(({ name, from, width }) => [name, from, width]);
    expect(made).to.deep.include(['/a-300.avif', '/a.png', 300]);
    expect(made.every(([, from]) => from === '/a.png')).to.equal(true);
  });
});

describe('names of new files', () => {
  it('keep numbers and dates that are no widths', () => {
    const fixes = savingFixes({
      files: {
        '/gallery-01.jpg': [2000, 1500, 400_000],
        '/gallery-02.jpg': [2000, 1500, 410_000],
        '/beach-2023-05-17.jpg': [2000, 1500, 420_000],
        '/beach-2023-05-18.jpg': [2000, 1500, 430_000],
      },
      images: ['gallery-01', 'gallery-02', 'beach-2023-05-17', 'beach-2023-05-18'].map((name) =>
        image(`${name}.jpg`, [370, 278]),
      ),
    });
    // 370 px would be 277.5 px high, and 278 another shape: 372 × 279 is that of 4 : 3.
    expect(namesOf(fixes)).to.deep.equal([
      '/beach-2023-05-17-372.jpg',
      '/beach-2023-05-18-372.jpg',
      '/gallery-01-372.jpg',
      '/gallery-02-372.jpg',
    ]);
  });

  it('are another one each where two pictures would get the same', () => {
    const fixes = savingFixes({
      files: { '/hero.jpg': [1000, 500, 400_000], '/hero.webp': [1000, 500, 300_000] },
      images: [image('hero.jpg', [1000, 500]), image('hero.webp', [1000, 500])],
      formats: ['avif'],
    });
    const avif = namesOf(fixes).filter((name) => name.endsWith('.avif'));
    expect(new Set(avif).size).to.equal(2);
    expect(fixes.map(({ edits }) => flat(edits[0]?.after)).join()).to.contain('srcset="hero.avif"');
  });

  it('follow the way the site writes widths, and leave out hashes', () => {
    const fixes = savingFixes({
      files: {
        '/ka-400w.jpg': [400, 300, 80_000],
        '/cover_2000.jpg': [2000, 1000, 500_000],
        '/main.3f2a9c1b.jpg': [1600, 800, 300_000],
        '/shot-1200x600.jpg': [1200, 600, 200_000],
      },
      images: [
        image('ka-400w.jpg', [200, 150]),
        image('cover_2000.jpg', [640, 320]),
        image('main.3f2a9c1b.jpg', [500, 250]),
        image('shot-1200x600.jpg', [300, 150]),
      ],
    });
    const names = namesOf(fixes);
    expect(names).to.include('/ka-200w.jpg');
    expect(names).to.include('/cover_640.jpg');
    expect(names).to.include('/shot-300x150.jpg');
    expect(names.find((name) => name.startsWith('/main'))).to.match(/^\/main[-_]500(w|x250)?\.jpg$/);
  });

  it('are those of the tag, for every file of the tag and no other', () => {
    const fixes = savingFixes({
      files: {
        '/ka-400w.jpg': [400, 300, 90_000],
        '/lad-480.webp': [480, 360, 40_000],
        '/lad-2400.webp': [2400, 1800, 900_000],
      },
      images: [
        image('ka-400w.jpg', [400, 300]),
        {
          markup:
            '<img src="lad-480.webp" srcset="lad-480.webp 480w, lad-2400.webp 2400w" sizes="1000px" alt="">',
          slot: [1000, 750],
        },
      ],
      formats: ['avif'],
    });
    for (const { edits, files } of fixes) {
      const text = edits.map(({ after }) => after).join();
      for (const { name } of files) expect(text).to.contain(name.slice(1));
    }
    expect(namesOf(fixes)).to.include('/ka-400w.avif');
    expect(namesOf(fixes)).to.include('/lad-1000.webp');
  });

  it('are never those of files that are there', () => {
    const fixes = savingFixes({
      files: { '/a.jpg': [2000, 1000, 500_000], '/a-500.jpg': [500, 500, 30_000] },
      images: [image('a.jpg', [500, 250])],
    });
    // The name is taken by another picture.
    expect(namesOf(fixes)).to.deep.equal(['/a-500-small.jpg']);
  });

  it('are not needed for files that are there and show the same', () => {
    const [fix] = savingFixes({
      files: { '/cover_2000.jpg': [2000, 1000, 500_000], '/cover_800.jpg': [800, 400, 115_000] },
      images: [image('cover_2000.jpg', [780, 390])],
      twins: { '/cover_2000.jpg': ['/cover_800.jpg'] },
    });
    expect(fix?.files).to.deep.equal([]);
    expect(flat(fix?.edits[0]?.after)).to.contain('cover_800.jpg 800w');
    expect(fix?.saves.expected).to.equal(500_000 - 115_000);
  });
});

describe('pictures', () => {
  it('get widths in the source that is taken', () => {
    const [fix] = savingFixes({
      files: { '/duo.webp': [2000, 1000, 300_000], '/duo.jpg': [2000, 1000, 500_000] },
      images: [
        {
          markup: '<picture><source type="image/webp" srcset="duo.webp"><img src="duo.jpg" alt=""></picture>',
          slot: [500, 250],
        },
      ],
    });
    expect(flat(fix?.edits[0]?.after)).to.match(/<source type="image\/webp" srcset="duo-500\.webp 500w"/);
    expect(fix?.places[0]?.takes['desk']).to.include({ before: '/duo.webp', after: '/duo-500.webp' });
    // 300 kB at a quarter of the width: 0.25^1.6.
    expect(fix?.saves.expected).to.be.closeTo(300_000 * (1 - 0.25 ** 1.6), 1000);
  });

  it('have ladders of their own for each crop, and are priced by it', () => {
    const fixes = savingFixes({
      screens: [phone, wide],
      files: { '/tall.jpg': [1500, 2000, 600_000], '/pano.jpg': [3000, 1000, 500_000] },
      images: [
        {
          markup:
            '<picture><source media="(max-width: 600px)" srcset="tall.jpg"><img src="pano.jpg" alt=""></picture>',
          slot: { phone: [400, 533], desk: [1000, 333] },
        },
      ],
    });
    const [fix] = fixes;
    expect(fixes).to.have.length(1);
    // 1,002 × 334 px and 801 × 1,068 px have the shapes of 3 : 1 and 3 : 4.
    expect(namesOf(fixes)).to.deep.equal(['/pano-1002.jpg', '/tall-801.jpg']);
    expect(fix?.places[0]?.takes['phone']?.after).to.equal('/tall-801.jpg');
    expect(fix?.saves.screens['phone']).to.be.closeTo(600_000 * (1 - (801 / 1500) ** 1.6), 2000);
    expect(fix?.saves.screens['desk']).to.be.closeTo(500_000 * (1 - (1000 / 3000) ** 1.6), 2000);
  });

  it('without a gap get none because of another crop', () => {
    const fixes = savingFixes({
      screens: [phone, wide],
      files: { '/tall-800.jpg': [800, 1000, 90_000], '/w-1000.jpg': [1000, 500, 80_000] },
      images: [
        {
          markup:
            '<picture><source media="(max-width: 600px)" srcset="tall-800.jpg 800w" sizes="400px"><img srcset="w-1000.jpg 1000w" sizes="1000px" alt=""></picture>',
          slot: { phone: [400, 500], desk: [1000, 500] },
        },
      ],
    });
    expect(fixes).to.deep.equal([]);
  });
});

describe('dimensions', () => {
  /** The image as it is seen where nothing keeps room for it. */
  const bare = (more: Partial<DrawnImage>): string => {
    const world = drawnWorld({
      screens: [phone, wide],
      files: {
        '/logo@2x.png': [300, 100, 3000],
        '/tall.jpg': [600, 800, 3000],
        '/wide.jpg': [900, 300, 3000],
      },
      images: [{ markup: '', slot: null, ...more }],
      priced: false,
    });
    for (const { shown } of world.placements)
      for (const each of Object.values(shown)) each.whileWaiting = null;
    const { fixes } = writeFixes(judge(checks, world));
    return flat(fixes.find((fix) => fix.checks.includes('no-dimensions'))?.edits[0]?.after);
  };

  it('of a file of density 2 are those at which it is laid out', () => {
    const text = bare({
      markup: '<img srcset="logo@2x.png 2x" alt="">',
      slot: [150, 50],
      widthFrom: 'nothing',
      heightFrom: 'nothing',
    });
    expect(text).to.contain('width="150" height="50"');
    expect(text).not.to.contain('style');
  });

  it('keep free the side that a style would otherwise lose to the attribute', () => {
    const text = bare({
      markup: '<img src="wide.jpg" alt="">',
      slot: [450, 150],
      widthFrom: 'style',
      heightFrom: 'nothing',
    });
    expect(text).to.contain('width="900" height="300"');
    expect(text).to.contain('style="height: auto"');
  });

  it('are written for each crop of a picture whose sources have none', () => {
    const text = bare({
      markup:
        '<picture><source media="(max-width: 600px)" srcset="tall.jpg"><img src="wide.jpg" alt=""></picture>',
      slot: { phone: [400, 533], desk: [1000, 333] },
    });
    expect(text).to.match(
      /<source media="\(max-width: 600px\)" srcset="tall\.jpg" width="600" height="800">/,
    );
    expect(text).to.match(/<img src="wide\.jpg" width="900" height="300"/);
  });

  it('are not offered where they would make a box another one', () => {
    // The width follows from sizes, another one on each screen.
    const text = bare({
      markup: '<img srcset="wide.jpg 900w" sizes="50vw" alt="">',
      slot: { phone: [200, 67], desk: [500, 167] },
      widthFrom: 'nothing',
      heightFrom: 'nothing',
    });
    expect(text).to.equal('');
  });
});

describe('pictures that fill their box', () => {
  const densities: Screen[] = [
    { ...desk, name: 'one', share: 0.4 },
    { ...desk, name: 'two', density: 2, share: 0.3 },
    { ...desk, name: 'three', density: 3, share: 0.3 },
  ];

  it('by covering it get densities of the width at which they are drawn', () => {
    // 3:2 covers 80 × 80 px when it is drawn 120 px wide.
    const [fix] = savingFixes({
      screens: densities,
      files: { '/face.jpg': [1200, 800, 300_000] },
      images: [
        image('face.jpg', [80, 80], {
          fit: 'cover',
          heightFrom: 'style',
          sweep: { write: '120px', constant: 120 },
        }),
      ],
    });
    expect(flat(fix?.edits[0]?.after)).to.contain(
      'src="face-120.jpg" srcset="face-240.jpg 2x, face-360.jpg 3x"',
    );
  });

  it('by standing in it get densities of the width at which they are drawn', () => {
    const [fix] = savingFixes({
      screens: densities,
      files: { '/face.jpg': [1200, 2400, 600_000] },
      images: [
        image('face.jpg', [180, 120], {
          fit: 'contain',
          heightFrom: 'style',
          sweep: { write: '60px', constant: 60 },
        }),
      ],
    });
    expect(flat(fix?.edits[0]?.after)).to.contain(
      'src="face-60.jpg" srcset="face-120.jpg 2x, face-180.jpg 3x"',
    );
  });

  it('get sizes that say what is drawn, not the slot', () => {
    const [fix] = savingFixes({
      files: { '/a-600.jpg': [600, 400, 60_000], '/a-2000.jpg': [2000, 1333, 500_000] },
      images: [
        {
          markup: '<img srcset="a-600.jpg 600w, a-2000.jpg 2000w" sizes="100vw" alt="">',
          slot: [300, 300],
          fit: 'cover',
          heightFrom: 'style',
          sweep: { write: '450px' },
        },
      ],
    });
    expect(flat(fix?.edits[0]?.after)).to.contain('sizes="450px"');
    expect(fix?.places[0]?.takes['desk']?.after).to.match(/a-(600|451)\.jpg/);
  });
});

describe('images of styles', () => {
  it('at density 2 need no more than they have', () => {
    expect(
      savingFixes({
        screens: [{ ...desk, density: 2 }],
        files: { '/sign@2x.png': [400, 200, 60_000, { lossless: true }] },
        images: [
          {
            markup: '.a { background-image: image-set(url(sign@2x.png) 2x) }',
            slot: [400, 100],
            fit: 'none',
          },
        ],
        priced: false,
      }),
    ).to.deep.equal([]);
  });

  it('get a file for each width of the viewport, and what is claimed is what it shows', () => {
    const [fix] = savingFixes({
      screens: [phone, wide],
      files: { '/band.jpg': [3000, 1000, 800_000] },
      images: [
        {
          markup: '.band { height: 300px; background: #123 url(band.jpg) center / cover; }',
          slot: { phone: [400, 100], desk: [1000, 100] },
          fit: 'cover',
        },
      ],
    });
    const [edit] = fix?.edits ?? [];
    expect(edit?.kind).to.equal('style');
    expect(edit?.after).to.match(/background: #123 url\(band-1000\.jpg\) center \/ cover;/);
    expect(fix?.places[0]?.takes['desk']?.after).to.equal('/band-1000.jpg');
    const onPhone = fix?.places[0]?.takes['phone']?.after ?? '';
    expect(onPhone).to.match(/^\/band-(800|1000)\.jpg$/);
    expect(edit?.after.includes('@media (max-width: 400px)')).to.equal(onPhone === '/band-800.jpg');
  });

  it('name a file that serves several densities at the largest of them, so that none is given a larger one', () => {
    const tablet: Screen = { ...desk, name: 'tablet', width: 800, density: 2, share: 0.4 };
    const dense: Screen = { ...desk, name: 'dense', width: 900, density: 3, share: 0.2 };
    const desktop: Screen = { ...desk, width: 1600, share: 0.4 };
    const [fix] = savingFixes({
      screens: [tablet, dense, desktop],
      files: { '/band.jpg': [4000, 1000, 900_000] },
      images: [
        {
          markup: '.band { background: url(band.jpg) center / cover; }',
          slot: { tablet: [800, 100], dense: [900, 100], desk: [1600, 100] },
          fit: 'cover',
        },
      ],
    });
    // Of 800 CSS px a screen of density 1 takes the 1,600 px too: there is nothing smaller.
    expect(flat(fix?.edits[0]?.after)).to.match(
      /\(max-width: 800px\) \{ \.band \{ background-image: image-set\(url\(band-1600\.jpg\) 2x, url\(band-2700\.jpg\) 3x\); \}/,
    );
    expect(fix?.places[0]?.takes['tablet']?.after).to.equal('/band-1600.jpg');
    expect(fix?.places[0]?.takes['dense']?.after).to.equal('/band-2700.jpg');
  });

  it('keep what they offer to browsers that do not know the type of the new files', () => {
    const [fix] = savingFixes({
      screens: [{ ...desk, density: 2 }],
      files: {
        '/band.avif': [3000, 1000, 400_000],
        '/band.jpg': [1500, 500, 300_000],
        '/band-2x.jpg': [3000, 1000, 800_000],
      },
      images: [
        {
          markup:
            '.band { background: image-set(url(band.avif) type("image/avif") 2x, url(band.jpg) 1x, url(band-2x.jpg) 2x) center / cover; }',
          slot: [1000, 100],
          fit: 'cover',
        },
      ],
    });
    expect(flat(fix?.edits[0]?.after)).to.contain(
      'image-set(url(band-2000.avif) type("image/avif") 2x, url(band-2x.jpg) 2x) center / cover',
    );
  });

  it('are edited in their layer', () => {
    const [fix] = savingFixes({
      files: { '/band.jpg': [3000, 1000, 800_000] },
      images: [
        {
          markup: '.band { background-image: linear-gradient(#000, #fff), url(band.jpg) }',
          slot: [1000, 300],
          fit: 'cover',
          layer: 1,
        },
      ],
    });
    expect(fix?.edits[0]?.after).to.equal(
      '.band { background-image: linear-gradient(#000, #fff), url(band-1000.jpg) }',
    );
  });

  it('of a set width are drawn at it', () => {
    const [fix] = savingFixes({
      files: { '/half.jpg': [2000, 1000, 500_000] },
      images: [
        { markup: '.a { background: url(half.jpg) 0 0 / 50% no-repeat }', slot: [800, 400], fit: '50%' },
      ],
    });
    expect(namesOf(fix ? [fix] : [])).to.deep.equal(['/half-400.jpg']);
  });

  it('of one rule on two pages are one fix', () => {
    const band = (page: string): DrawnImage => ({
      page,
      markup: '.band { background: url(/band.jpg) center / cover }',
      slot: [1000, 300],
      fit: 'cover',
    });
    const fixes = savingFixes({
      files: { '/band.jpg': [3000, 1000, 800_000] },
      images: [band('/'), band('/a/')],
    });
    expect(fixes).to.have.length(1);
    expect(fixes[0]?.pages).to.deep.equal(['/', '/a/']);
  });
});

describe('files that several texts of a page show', () => {
  it('are left as they are where one needs them whole', () => {
    // A thumbnail of its own would be fetched beside the full view.
    expect(
      savingFixes({
        files: { '/big.jpg': [1000, 750, 400_000] },
        images: [image('big.jpg', [100, 75]), image('big.jpg', [1000, 750])],
      }),
    ).to.deep.equal([]);
  });

  it('are one fix where each edit alone would cost', () => {
    const fixes = savingFixes({
      files: { '/big.jpg': [2000, 1500, 400_000] },
      images: [
        image('big.jpg', [500, 375]),
        { markup: '.band { background: url(big.jpg) center / cover }', slot: [500, 300], fit: 'cover' },
      ],
    });
    expect(fixes).to.have.length(1);
    expect(fixes[0]?.edits.map(({ kind }) => kind).sort()).to.deep.equal(['style', 'tag']);
    expect(fixes[0]?.saves.expected).to.be.closeTo(400_000 * (1 - 0.25 ** 1.6), 1000);
  });

  it('go away when a hidden copy is made lazy', () => {
    const fixes = savingFixes({
      files: { '/logo.png': [900, 300, 90_000, { lossless: true }] },
      images: [image('logo.png', [90, 30]), image('logo.png', null, { template: 'body > .menu' })],
      priced: true,
    });
    const [fix] = fixes;
    expect(fixes).to.have.length(1);
    expect(fix?.places.map(({ after }) => flat(after)).join()).to.contain('loading="lazy"');
    expect(fix?.places[1]?.takes['desk']?.after ?? fix?.places[0]?.takes['desk']?.after).to.not.equal(
      '/logo.png',
    );
  });

  it('take their preload along', () => {
    const fixes = savingFixes({
      files: { '/hero.jpg': [3000, 1500, 900_000] },
      images: [
        { markup: '<link rel="preload" as="image" href="hero.jpg">', kind: 'preload', slot: null },
        image('hero.jpg', [1000, 500]),
      ],
    });
    expect(fixes).to.have.length(1);
    const link = fixes[0]?.edits.find(({ kind }) => kind === 'link');
    expect(flat(link?.after)).to.match(/imagesrcset="hero-1000\.jpg 1000w"/);
    expect(fixes[0]?.saves.expected).to.be.closeTo(900_000 * (1 - (1 / 3) ** 1.6), 2000);
  });
});

describe('groups', () => {
  it('have one text only where their slots are the same', () => {
    const column = (share: number, index: number): DrawnImage =>
      image(`${index}.jpg`, [share * 10, share * 5], {
        template: 'body > .col > img',
        sweep: { write: `${share}vw` },
      });
    const fixes = savingFixes({
      files: { '/0.jpg': [2000, 1000, 400_000], '/1.jpg': [2000, 1000, 400_000] },
      images: [column(50, 0), column(25, 1)],
    });
    expect(fixes.map(({ edits }) => /sizes="(\w+)"/.exec(flat(edits[0]?.after))?.[1]).sort()).to.deep.equal([
      '25vw',
      '50vw',
    ]);
  });

  it('of many eager images far below are no trifle', () => {
    const wall = Array.from({ length: 40 }, (_, index): DrawnImage =>
      image(`${index}.jpg`, [200, 150], { y: 9000, template: 'body > .wall > img' }),
    );
    const files = Object.fromEntries(
      wall.map((_, index) => [`/${index}.jpg`, [200, 150, 3000] as [number, number, number]]),
    );
    const fixes = savingFixes({ files, images: wall, priced: false });
    expect(fixes.map(({ checks }) => checks)).to.deep.equal([['eager-below-fold']]);
    expect(fixes[0]?.places).to.have.length(40);
    expect(fixes[0]?.notes.length).to.be.below(3);
  });
});

describe('the list', () => {
  it('says what each fix adds to those above it, and what it saves alone', () => {
    const { fixes, ledger } = drawnFixes({
      files: { '/a.jpg': [2000, 1000, 500_000, { quality: 95 }], '/b.jpg': [2000, 1000, 300_000] },
      images: [image('a.jpg', [500, 250]), image('b.jpg', [500, 250])],
      formats: ['avif'],
    });
    const saving = fixes.filter(({ saves }) => saves.expected > 0);
    expect(saving.map(({ saves }) => saves.expected)).to.deep.equal(
      saving.map(({ saves }) => saves.expected).sort((a, b) => b - a),
    );
    for (const fix of saving) expect(fix.alone.expected).to.equal(fix.saves.expected);
    const after = ledger.reduce((sum, { expectedRemains }) => sum + expectedRemains, 0);
    expect(saving.reduce((sum, { saves }) => sum + saves.expected, after)).to.equal(800_000);
  });

  it('never shows a text that changes nothing', () => {
    const { fixes } = drawnFixes({
      files: { '/a.png': [500, 250, 200_000, { lossless: true }] },
      images: [image('/a.png', [500, 250])],
    });
    for (const { kind, edits } of fixes)
      if (kind === 'edit') for (const { before, after } of edits) expect(after).not.to.equal(before);
  });
});
