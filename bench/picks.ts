/** Times a million picks from parsed markup, and the parsing of long attributes. Run with "npm run bench". */
import { environmentOf, parseImage, parseSizes, parseSrcset, pickImage } from '../src/core/markup/index.js';

const report = (what: string, started: number) =>
  process.stdout.write(`${what.padEnd(64)} ${(performance.now() - started).toFixed(0).padStart(6)} ms\n`);

const widths = [360, 480, 700, 780, 1060, 1600, 2200];
const image = parseImage({
  sources: [
    {
      media: '(min-width: 60em) and (orientation: landscape)',
      srcset: widths.map((w) => `a-${w}.avif ${w}w`).join(', '),
      sizes: '33vw',
    },
  ],
  img: {
    srcset: widths.map((w) => `b-${w}.jpg ${w}w`).join(', '),
    sizes: '(max-width: 623px) calc(100vw - 40px), (max-width: 927px) calc(50vw - 32px), 344px',
    src: 'b.jpg',
  },
});
const environments = [320, 390, 820, 1024, 1440, 1920].flatMap((width) =>
  [1, 2, 3].map((density) => environmentOf({ width, height: 900, density, touch: false })),
);

let started = performance.now();
let picked = 0;
for (let count = 0; count < 1_000_000; count++) {
  const environment = environments[count % environments.length];
  if (environment && pickImage(image, environment)) picked++;
}
report(`${picked.toLocaleString('en')} picks from parsed markup`, started);

started = performance.now();
parseSrcset(Array.from({ length: 10_000 }, (_, index) => `picture-${index}.jpg ${index + 1}w`).join(', '));
report('srcset of 10,000 candidates', started);

for (const [name, unit] of [
  ['commas', ','],
  ['spaces', ' '],
  ['opening parentheses', '('],
  ['pairs of parentheses', '()'],
] as const) {
  const text = unit.repeat(1_000_000 / unit.length);
  started = performance.now();
  parseSrcset(`a.jpg ${text}`);
  report(`srcset of 1 MB of ${name}`, started);
  started = performance.now();
  parseSizes(`${text} 100px`);
  report(`sizes of 1 MB of ${name}`, started);
}
