import { expect } from 'chai';
import { PriceList } from '../../../src/core/bytes/price-list.js';
import { checks } from '../../../src/core/checks/index.js';
import type { World } from '../../../src/core/judging/facts.js';
import { writeFixes } from '../../../src/core/judging/fixes.js';
import { judge } from '../../../src/core/judging/judge.js';
import type { ImageFile, PicturePrice, Placement, PricePoint, Screen } from '../../../src/core/run/index.js';
import { oneScreen, someWishes, shownOn, someFacts, someFile, somePlacement } from '../../support/facts.js';

type Shown = Parameters<typeof shownOn>[1];

interface Case {
  says: string;
  facts: World;
  finds: boolean;
}

interface OneImage {
  placement?: Partial<Placement>;
  shown?: Partial<Shown>;
  file?: Partial<ImageFile>;
  screen?: Screen;
  price?: Partial<PicturePrice>;
}

/** One image on one page: 400 × 300 CSS px, a file of twice that and 100 kB, unless told otherwise. */
function one({ placement = {}, shown = {}, file = {}, screen = oneScreen, price }: OneImage): World {
  const own = someFile({ url: '/a.jpg', width: 800, height: 600, bytes: 100_000, ...file });
  const image = somePlacement({
    id: '/#1',
    markup: `<img src="${own.url.slice(1)}" width="800" height="600" alt="x">`,
    alt: 'x',
    candidates: [own.url],
    ...shownOn(screen, {
      url: own.url,
      bytes: own.bytes,
      slot: [400, 300],
      file: [own.width, own.height],
      ...shown,
    }),
    ...placement,
  });
  const facts = someFacts({ screens: [screen], placements: [image], files: [own] });
  if (!price) return facts;
  const whole: PicturePrice = { url: own.url, content: 'photo', alike: [], formats: {}, notes: [], ...price };
  return { ...facts, prices: new PriceList(new Map([[own.url, whole]]), facts.files) };
}

const point = (bytes: number, width = 800): PricePoint => ({ width, bytes, quality: 60, decibels: 12 });
const phone: Screen = { ...oneScreen, name: 'desk', width: 390, height: 844, density: 3, touch: true };
const low = (y: number): Partial<Shown> => ({ at: [0, y] });

const cases: Record<string, Case[]> = {
  upscaled: [
    {
      says: 'a file of a px for each CSS px',
      facts: one({ file: { width: 400, height: 300 } }),
      finds: false,
    },
    { says: 'a file enlarged 1.29 times', facts: one({ file: { width: 310, height: 233 } }), finds: false },
    { says: 'a file of three quarters', facts: one({ file: { width: 300, height: 225 } }), finds: false },
    { says: 'a file enlarged 1.34 times', facts: one({ file: { width: 299, height: 225 } }), finds: true },
    {
      says: 'a px for each CSS px on a screen of three',
      facts: one({ file: { width: 400, height: 300 }, screen: phone }),
      finds: true,
    },
    {
      says: 'pixels that a style keeps sharp',
      facts: one({ file: { width: 100, height: 75 }, shown: { more: { pixelated: true } } }),
      finds: false,
    },
    {
      says: 'three quarters of two px where no more are asked for',
      facts: {
        ...one({ file: { width: 600, height: 450 }, screen: phone }),
        wishes: { ...someWishes, sharpness: 2 },
      },
      finds: false,
    },
    {
      says: 'an icon',
      facts: one({ file: { width: 16, height: 16 }, shown: { slot: [32, 32] }, screen: phone }),
      finds: false,
    },
    {
      // 400 px of 300 : 400 would be 533 px high.
      says: 'what is drawn much wider than its shape',
      facts: one({ file: { width: 150, height: 200 }, shown: { slot: [400, 300] } }),
      finds: false,
    },
    {
      says: 'a vector picture',
      facts: one({ file: { width: 24, height: 18, format: 'svg' } }),
      finds: false,
    },
    {
      says: 'an image that is never seen',
      facts: one({ file: { width: 100, height: 75 }, shown: { more: { seen: false } } }),
      finds: false,
    },
    {
      says: 'an image with width descriptors',
      facts: one({
        file: { width: 100, height: 75 },
        placement: { markup: '<img srcset="a.jpg 100w" sizes="400px" alt="x">' },
      }),
      finds: false,
    },
  ],
  stretched: [
    { says: 'the shape of the file', facts: one({}), finds: false },
    { says: 'a height of 100 instead of 300 px', facts: one({ shown: { slot: [400, 100] } }), finds: true },
    {
      says: 'the same, but cut by object-fit',
      facts: one({ shown: { slot: [400, 100], more: { fit: 'cover' } } }),
      finds: false,
    },
    { says: 'a difference of 2 %', facts: one({ shown: { slot: [400, 294] } }), finds: false },
    // 16 × 13 px instead of 16 × 12: whole px cannot come nearer to some shapes.
    { says: 'a px of rounding in a small slot', facts: one({ shown: { slot: [16, 12.5] } }), finds: false },
  ],
  'wider-than-screen': [
    { says: 'a slot as wide as the screen', facts: one({ shown: { slot: [1000, 750] } }), finds: false },
    { says: 'a slot 2 px wider', facts: one({ shown: { slot: [1002, 750] } }), finds: true },
    {
      says: 'what a frame cuts at both edges',
      facts: one({ shown: { slot: [1100, 750], at: [-50, 0] } }),
      finds: false,
    },
    {
      says: 'a narrow slot that begins near the edge',
      facts: one({ shown: { slot: [400, 300], at: [900, 0] } }),
      finds: false,
    },
    {
      says: 'a slide beyond the edge',
      facts: one({ shown: { slot: [1100, 300], at: [1000, 0] } }),
      finds: false,
    },
  ],
  'thin-on-narrow-screens': [
    {
      says: 'a panorama on a desktop',
      facts: one({ shown: { slot: [900, 60] }, file: { width: 1800, height: 120 } }),
      finds: false,
    },
    {
      says: 'a panorama on a phone',
      facts: one({ screen: phone, shown: { slot: [350, 56] }, file: { width: 1800, height: 288 } }),
      finds: true,
    },
    {
      says: 'a picture 100 px high',
      facts: one({ screen: phone, shown: { slot: [350, 100] }, file: { width: 1750, height: 500 } }),
      finds: false,
    },
    {
      says: 'a thumbnail',
      facts: one({ screen: phone, shown: { slot: [120, 40] }, file: { width: 360, height: 120 } }),
      finds: false,
    },
    {
      says: 'a wordmark as a vector picture',
      facts: one({ screen: phone, shown: { slot: [350, 56] }, file: { format: 'svg' } }),
      finds: false,
    },
  ],
  'file-cut-short': [
    { says: 'a file that ends too early', facts: one({ file: { truncated: true } }), finds: true },
    { says: 'a whole file', facts: one({}), finds: false },
  ],
  'misnamed-file': [
    { says: 'a PNG under .jpg', facts: one({ file: { format: 'png' } }), finds: true },
    { says: 'a JPEG under .JPG?v=2', facts: one({ file: { url: '/A.JPG?v=2' } }), finds: false },
    { says: 'a PNG without an ending', facts: one({ file: { url: '/a', format: 'png' } }), finds: false },
    { says: 'a PNG under .ico', facts: one({ file: { url: '/a.ico', format: 'png' } }), finds: false },
    {
      says: 'a file that is no picture',
      facts: one({ file: { format: 'unknown', problem: 'the file is an HTML page, not an image' } }),
      finds: false,
    },
  ],
  'raster-in-vector': [
    {
      says: 'an SVG of 100 kB around a picture of 74 kB',
      facts: one({ file: { url: '/a.svg', format: 'svg', embedded: 74_000 } }),
      finds: true,
    },
    {
      says: 'a drawing with a picture in it',
      facts: one({ file: { url: '/a.svg', format: 'svg', embedded: 40_000 } }),
      finds: false,
    },
    {
      says: 'a tiny picture',
      facts: one({ file: { url: '/a.svg', format: 'svg', bytes: 4200, embedded: 3000 } }),
      finds: false,
    },
  ],
  'no-text-alternative': [
    { says: 'words', facts: one({ placement: { alt: 'The hut in the morning' } }), finds: false },
    { says: 'nothing, on purpose', facts: one({ placement: { alt: '' } }), finds: false },
    { says: 'no attribute', facts: one({ placement: { alt: null } }), finds: true },
    { says: 'the name of a file', facts: one({ placement: { alt: 'hut-780.avif' } }), finds: true },
    { says: 'the name that a camera gives', facts: one({ placement: { alt: 'DSC_0042' } }), finds: true },
    { says: 'three dots', facts: one({ placement: { alt: '...' } }), finds: true },
    { says: 'a dash', facts: one({ placement: { alt: ' – ' } }), finds: true },
    { says: 'the word image alone', facts: one({ placement: { alt: 'Image' } }), finds: true },
    { says: 'a word of another script', facts: one({ placement: { alt: '山小屋' } }), finds: false },
    { says: 'a sign that is the picture', facts: one({ placement: { alt: '→' } }), finds: false },
    { says: 'a number that is the picture', facts: one({ placement: { alt: '1842' } }), finds: false },
    {
      says: 'a word that cameras use too',
      facts: one({ placement: { alt: 'Image of a stove' } }),
      finds: false,
    },
    {
      says: 'an image that is said to be ornament',
      facts: one({ placement: { alt: null, markup: '<img src="a.jpg" role="presentation">' } }),
      finds: false,
    },
  ],
  'bulky-inline-data': [
    {
      says: 'a small inlined picture',
      facts: one({ placement: { markup: `<img src="data:image/png;base64,${'A'.repeat(3000)}" alt="">` } }),
      finds: false,
    },
    {
      says: 'a large one',
      facts: one({ placement: { markup: `<img src="data:image/png;base64,${'A'.repeat(5000)}" alt="">` } }),
      finds: true,
    },
    {
      says: 'a large one with quotes of the other kind in it',
      facts: one({
        placement: {
          markup: `<img src="data:image/svg+xml,<svg xmlns='x'>${"<path d='M0 0'/>".repeat(400)}</svg>" alt="">`,
        },
      }),
      finds: true,
    },
  ],
  'lazy-without-room': [
    { says: 'room kept', facts: one({ shown: { ...low(3000), more: { lazy: true } } }), finds: false },
    {
      says: 'no room, fetched at once, far below',
      facts: one({ shown: { ...low(3000), more: { lazy: true, whileWaiting: null } } }),
      finds: true,
    },
    {
      says: 'no room, but fetched after scrolling',
      facts: one({ shown: { ...low(3000), began: 'scrolled', more: { lazy: true, whileWaiting: null } } }),
      finds: false,
    },
    // The fold is at 800 px, and lazy images load from 1,250 px below it.
    {
      says: 'no room, but as near as lazy images load',
      facts: one({ shown: { ...low(2000), more: { lazy: true, whileWaiting: null } } }),
      finds: false,
    },
    {
      says: 'an image that is not lazy',
      facts: one({ shown: { ...low(3000), more: { whileWaiting: null } } }),
      finds: false,
    },
  ],
  'main-picture-late': [
    {
      says: 'an img of the page',
      facts: one({
        placement: { source: { file: 'index.html', line: 1, column: 1 } },
        shown: { more: { largestPaint: true } },
      }),
      finds: false,
    },
    {
      says: 'an img that a script made',
      facts: one({ shown: { more: { largestPaint: true } } }),
      finds: true,
    },
    {
      says: 'a background',
      facts: one({
        placement: { kind: 'css-image', source: { file: 'a.css', line: 3, column: 1 } },
        shown: { more: { largestPaint: true } },
      }),
      finds: true,
    },
    {
      says: 'a background that is not the largest paint',
      facts: one({ placement: { kind: 'css-image' } }),
      finds: false,
    },
  ],
  'blank-while-waiting': [
    { says: 'a hole', facts: one({ shown: { more: { waiting: 'blank' } } }), finds: true },
    { says: 'a colour', facts: one({ shown: { more: { waiting: 'colour' } } }), finds: false },
    { says: 'a slot that was not looked at', facts: one({}), finds: false },
    {
      says: 'an image that is turned a little, for which no room is kept',
      facts: one({
        shown: {
          more: {
            heightFrom: 'auto',
            whileWaiting: { x: 0, y: 0, width: 299, height: 16 },
            beforeScroll: { x: 0, y: 0, width: 310, height: 215 },
          },
        },
      }),
      finds: true,
    },
    {
      says: 'one that keeps a part of its room',
      facts: one({
        shown: {
          more: {
            heightFrom: 'auto',
            whileWaiting: { x: 0, y: 0, width: 310, height: 60 },
            beforeScroll: { x: 0, y: 0, width: 310, height: 215 },
          },
        },
      }),
      finds: false,
    },
  ],
  'dimensions-of-another-ratio': [
    {
      says: 'attributes of another shape, and a box that changes',
      facts: one({
        placement: { markup: '<img src="a.jpg" width="600" height="600" alt="x">' },
        shown: { more: { whileWaiting: { x: 0, y: 0, width: 400, height: 400 } } },
      }),
      finds: true,
    },
    {
      says: 'the same, but a style gives the box its shape',
      facts: one({ placement: { markup: '<img src="a.jpg" width="600" height="600" alt="x">' } }),
      finds: false,
    },
    {
      says: 'attributes of the same shape in other numbers',
      facts: one({
        placement: { markup: '<img src="a.jpg" width="4" height="3" alt="x">' },
        shown: { more: { whileWaiting: null } },
      }),
      finds: false,
    },
  ],
  'carried-metadata': [
    {
      says: 'camera notes of 5 kB',
      facts: one({ file: { metadata: { 'camera notes': 5000 } } }),
      finds: true,
    },
    {
      says: 'camera notes of 3 kB',
      facts: one({ file: { metadata: { 'camera notes': 3000 } } }),
      finds: false,
    },
    {
      says: 'a profile of a wide range of colours',
      facts: one({ file: { metadata: { 'colour profile': 9000 } } }),
      finds: false,
    },
    {
      says: 'notes that fall under the limit without the credits',
      facts: {
        ...one({ file: { metadata: { 'camera notes': 4300 } } }),
        wishes: {
          formats: [],
          trifles: { trifleBytes: 4000, trifleShare: 0.15 },
          keepCredits: true,
          crops: false,
          sharpness: 3,
        },
      },
      finds: false,
    },
  ],
  'heavier-encoding': [
    {
      says: 'a third of the bytes at equal looks',
      facts: one({ shown: { slot: [800, 600] }, price: { formats: { jpeg: [point(30_000)] } } }),
      finds: true,
    },
    {
      says: 'nine tenths of the bytes at equal looks',
      facts: one({ shown: { slot: [800, 600] }, price: { formats: { jpeg: [point(90_000)] } } }),
      finds: false,
    },
    {
      says: 'a JPEG of quality 80 at its own size',
      facts: one({
        file: { quality: 80 },
        shown: { slot: [800, 600] },
        price: { formats: { jpeg: [point(30_000)] } },
      }),
      finds: false,
    },
    {
      says: 'a WebP of quality 80 at its own size',
      facts: one({
        file: { format: 'webp', quality: 80 },
        shown: { slot: [800, 600] },
        price: { formats: { webp: [point(30_000)] } },
      }),
      finds: false,
    },
    {
      says: 'a WebP of quality 90 at its own size, a third of whose bytes do',
      facts: one({
        file: { format: 'webp', quality: 90 },
        shown: { slot: [800, 600] },
        price: { formats: { webp: [point(30_000)] } },
      }),
      finds: true,
    },
    // 80,000 + 20 % are 96,000 of 100,000 bytes.
    {
      says: 'an estimate whose pessimistic side saves too little',
      facts: one({
        shown: { slot: [800, 600] },
        price: { formats: { jpeg: [point(25_000, 400), point(66_000, 720)] } },
      }),
      finds: false,
    },
    {
      says: 'a drawing, of which another check speaks',
      facts: one({
        shown: { slot: [800, 600] },
        price: { content: 'graphic', formats: { jpeg: [point(30_000)] } },
      }),
      finds: false,
    },
  ],
  'older-format': [
    {
      says: 'half of the bytes in AVIF',
      facts: one({
        file: { quality: 75 },
        shown: { slot: [800, 600] },
        price: { formats: { avif: [point(50_000)] } },
      }),
      finds: true,
    },
    {
      says: 'half of the bytes in AVIF, of enlarged pixels that a style keeps sharp',
      facts: one({
        file: { quality: 75 },
        shown: { slot: [1600, 1200], more: { pixelated: true } },
        price: { formats: { avif: [point(50_000)] } },
      }),
      finds: false,
    },
    {
      says: 'half of the bytes in AVIF, of pixels that such a style shows smaller',
      facts: one({
        file: { quality: 75 },
        shown: { slot: [799, 599], more: { pixelated: true } },
        price: { formats: { avif: [point(50_000)] } },
      }),
      finds: true,
    },
    {
      says: 'WebP that is no smaller',
      facts: one({
        file: { quality: 75 },
        shown: { slot: [800, 600] },
        price: { formats: { webp: [point(101_000)] } },
      }),
      finds: false,
    },
    {
      says: 'a file in the newest format',
      facts: one({
        file: { format: 'avif', quality: null },
        shown: { slot: [800, 600] },
        price: { formats: { webp: [point(10_000)], avif: [point(99_000)] } },
      }),
      finds: false,
    },
  ],
  'photo-stored-lossless': [
    {
      says: 'a photograph as PNG',
      facts: one({
        file: { format: 'png', lossless: true, quality: null },
        shown: { slot: [800, 600] },
        price: { formats: { jpeg: [point(20_000)] } },
      }),
      finds: true,
    },
    {
      says: 'a drawing as PNG',
      facts: one({
        file: { format: 'png', lossless: true, quality: null },
        shown: { slot: [800, 600] },
        price: { content: 'graphic', formats: { png: [point(90_000)] } },
      }),
      finds: false,
    },
    {
      says: 'a photograph as JPEG',
      facts: one({ price: { formats: { jpeg: [point(90_000)] } } }),
      finds: false,
    },
  ],
  'graphic-stored-lossy': [
    { says: 'a drawing as JPEG', facts: one({ price: { content: 'graphic' } }), finds: true },
    { says: 'a photograph as JPEG', facts: one({ price: {} }), finds: false },
    {
      says: 'a JPEG of which it cannot be told',
      facts: one({ price: { content: 'between' } }),
      finds: false,
    },
    {
      says: 'a drawing as PNG',
      facts: one({ file: { format: 'png', lossless: true }, price: { content: 'graphic' } }),
      finds: false,
    },
  ],
  'animation-as-gif': [
    {
      says: 'a moving GIF',
      facts: one({
        file: { format: 'gif', animated: true, frames: 9, lossless: true, quality: null },
        price: { content: 'graphic', formats: { webp: [point(40_000)] } },
      }),
      finds: true,
    },
    {
      says: 'a GIF that stands still',
      facts: one({
        file: { format: 'gif', lossless: true, quality: null },
        price: { content: 'graphic', formats: { webp: [point(40_000)] } },
      }),
      finds: false,
    },
    {
      says: 'one that WebP makes hardly smaller',
      facts: one({
        file: { format: 'gif', animated: true, frames: 9, lossless: true, quality: null },
        price: { content: 'graphic', formats: { webp: [point(95_000)] } },
      }),
      finds: false,
    },
  ],
  'svg-carries-ballast': [
    {
      says: 'a drawing that shrinks to a third',
      facts: one({
        file: { format: 'svg', lossless: true, quality: null },
        price: { content: 'graphic', formats: { svg: [point(30_000)] } },
      }),
      finds: true,
    },
    {
      says: 'a clean drawing',
      facts: one({
        file: { format: 'svg', lossless: true, quality: null },
        price: { content: 'graphic', formats: { svg: [point(99_000)] } },
      }),
      finds: false,
    },
  ],
  'fetched-never-shown': [
    { says: 'an image that comes into view', facts: one({}), finds: false },
    { says: 'one that never does', facts: one({ shown: { more: { seen: false } } }), finds: true },
    {
      says: 'one whose file another image showed for a time',
      facts: one({ shown: { more: { seen: false, shownByOther: true } } }),
      finds: false,
    },
    {
      says: 'an icon of the page',
      facts: one({ placement: { kind: 'icon-link' }, shown: { more: { seen: false } } }),
      finds: false,
    },
  ],
};

describe('the checks, one image at a time', () => {
  for (const [id, list] of Object.entries(cases)) {
    describe(id, () => {
      for (const { says, facts, finds } of list)
        it(`${finds ? 'names' : 'is silent about'} ${says}`, () => {
          const check = checks.find((each) => each.id === id);
          if (!check) throw new Error(`no check ${id}`);
          const { findings } = writeFixes(judge([check], facts));
          expect(findings.map((finding) => finding.check)).to.deep.equal(finds ? [id] : []);
          for (const { says: sentence } of findings) expect(sentence).to.match(/\.$/);
        });
    });
  }
});
