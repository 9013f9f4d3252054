import { expect } from 'chai';
import type { Placement, Run } from '../../src/core/run/index.js';
import { auditRun, page, photo, removeSites, siteOf, yukkuri } from '../support/program.js';

const pageCount = 200;
/** Of the 59 of a template that are visited so many are on both screens. */
const visited = 25;

const words =
  'snow ridge hut path stone larch valley river cloud map rope boot lamp stove bunk tea bread'.split(' ');
/** Text of another length on each page, always the same for one page. */
const text = (seed: number, least: number, range: number) =>
  Array.from(
    { length: least + ((seed * 7919) % range) },
    (_, index) => words[(seed + index * index) % words.length],
  ).join(' ');

const style =
  '<style>body{margin:0;font:16px/1.5 sans-serif}img{max-width:100%;height:auto;display:block}.far{margin-top:5000px}</style>';

interface PageParts {
  hero: string;
  second: string;
}

/** A page of one template: a picture without `sizes` in a third of the width, text, and a lazy one of another width. */
const usual = (seed: number): PageParts => {
  const name = seed % 3 === 0 ? 'ridge' : 'valley';
  return {
    hero: `<img srcset="/${name}-400.jpg 400w, /${name}-1200.jpg 1200w" src="/${name}-1200.jpg" width="1200" height="800" style="width:33%" alt="A hut">`,
    second: `<img class="far" loading="lazy" src="/${seed % 2 === 0 ? 'wide' : 'small'}.jpg" width="${seed % 2 === 0 ? 900 : 240}" height="${seed % 2 === 0 ? 300 : 160}" alt="A path">`,
  };
};

const write = ({ hero, second }: PageParts, seed: number) =>
  page(
    `${style}<h1>${text(seed, 2, 4)}</h1>${hero}<p>${text(seed, 10, 90)}</p><img src="/near.jpg" width="300" height="200" alt="A stove">${second}<p>${text(seed, 5, 9)}</p>`,
  );

/** Pages with a fault of their own, by number. */
const faulty: Record<number, (parts: PageParts) => PageParts> = {
  // Another attribute: this page is like no other, and is visited.
  18: ({ hero, second }) => ({ hero, second: second.replace(' loading="lazy"', '') }),
  // The file is not there.
  58: ({ hero, second }) => ({ hero: hero.replaceAll(/\/(ridge|valley)/g, '/gone'), second }),
  // Its descriptor lies.
  101: ({ hero, second }) => ({ hero: hero.replace('400w', '64w'), second }),
  // Its dimensions are of another shape than its file.
  144: ({ hero, second }) => ({ hero: hero.replace('height="800"', 'height="1200"'), second }),
};

const pathOf = (number: number) => `/page-${number}.html`;

describe('a site of 200 pages', function () {
  this.timeout(300_000);
  let folder = '';
  let run: Run;
  // On the low one the text decides whether the second image lies over the fold.
  const screens = ['phone=400x700@2,share=0.5', 'low=1000x425@1,share=0.5'].flatMap((each) => [
    '--screen',
    each,
  ]);
  const audit = (...more: string[]) => auditRun(folder, ...screens, '--encode', 'none', ...more);

  before(async () => {
    const files: Record<string, string | Buffer> = {
      'ridge-400.jpg': await photo(400, 267),
      'ridge-1200.jpg': await photo(1200, 800),
      'valley-400.jpg': await photo(400, 267),
      'valley-1200.jpg': await photo(1200, 800),
      'wide.jpg': await photo(900, 300),
      'small.jpg': await photo(240, 160),
      'near.jpg': await photo(300, 200),
    };
    for (let number = 0; number < pageCount; number++) {
      const parts = usual(number);
      files[`page-${number}.html`] = write(faulty[number]?.(parts) ?? parts, number);
    }
    folder = await siteOf(files);
    run = await audit();
  });
  after(removeSites);

  it('is visited in part, and the rest is read from its files', () => {
    const [template, ...others] = run.readTemplates ?? [];
    expect(others).to.deep.equal([]);
    // All but the page that is like no other.
    expect(template).to.include({
      pages: pageCount - 1,
      learnt: 20,
      checked: 5,
      checkedOnOne: 34,
      visitedWhole: null,
    });
    expect(template?.agreed).to.equal(template?.compared);
    const read = run.pages.filter((each) => each.read);
    const inPart = read.filter(({ visitedOn }) => visitedOn !== undefined);
    expect(read).to.have.lengthOf((template?.read ?? 0) + (template?.readInPart ?? 0));
    // Without the two whose file or shape is like no other's, and those that are seen on one screen and have to be on the other one.
    expect(read.length).to.be.within(pageCount - 1 - visited - 10, pageCount - 1 - visited);
    // After two lines of text as many pixels of the second image are in view on the low screen as count, or one row less.
    const seenOn = (screen: string) => inPart.filter(({ visitedOn }) => visitedOn?.join() === screen).length;
    // Of the 34 half on each, without those that have to be visited on the other one too.
    expect(seenOn('phone')).to.be.within(11, 17);
    expect(seenOn('low')).to.be.above(17 + 5);
    expect(seenOn('phone') + seenOn('low')).to.equal(inPart.length);
    expect(template?.alsoVisited.find(({ screens: on }) => on?.join() === 'low')?.why).to.match(
      /^text decides whether the place of an image is in the first view on low$/,
    );
    expect(run.meta.looks?.['visit']?.made).to.equal(2 * (pageCount - read.length) + inPart.length);
  });

  it('has the fault of its template on every page', () => {
    const without = run.findings.filter(({ check }) => check === 'sizes-missing');
    expect(new Set(without.map(({ placement }) => placement.split('#')[0]))).to.have.lengthOf(pageCount - 1);
  });

  it('has every fault of one page that stands in markup or files', () => {
    const checksOn = (number: number) =>
      run.findings
        .filter(({ placement }) => placement.startsWith(`${pathOf(number)}#`))
        .map(({ check }) => check);
    expect(checksOn(18)).to.include('eager-below-fold');
    expect(checksOn(58)).to.include('does-not-load');
    expect(checksOn(101)).to.include('descriptor-differs-from-file');
    expect(checksOn(144)).to.include('dimensions-of-another-ratio');
    for (const check of [
      'eager-below-fold',
      'does-not-load',
      'descriptor-differs-from-file',
      'dimensions-of-another-ratio',
    ])
      expect(
        run.findings.filter((each) => each.check === check),
        check,
      ).to.have.lengthOf(1);
  });

  it('has the same where pages are visited that were read', async () => {
    const all = run.pages.filter((each) => each.read);
    const some = [
      ...all.filter(({ visitedOn }) => !visitedOn).slice(0, 3),
      ...all.filter(({ visitedOn }) => visitedOn).slice(0, 3),
    ];
    const seen = await audit(...some.flatMap(({ path }) => ['--page', path]));
    expect(seen.readTemplates).to.deep.equal([]);
    const byPlace = (placements: readonly Placement[]) =>
      new Map(placements.map((each) => [`${each.page} ${each.source?.line} ${each.source?.column}`, each]));
    const read = byPlace(run.placements);
    for (const [place, real] of byPlace(seen.placements)) {
      const own = read.get(place);
      expect(own, place).to.include({
        selector: real.selector,
        template: real.template,
        markup: real.markup,
      });
      expect(own?.picks, place).to.deep.equal(real.picks);
      for (const screen of ['phone', 'low']) {
        const [slot, download] = [real.slots[screen], real.downloads[screen]];
        const [x, width, height] = [slot?.x, slot?.width, slot?.height];
        expect(own?.slots[screen], place).to.include({ x, width, height });
        expect(own?.slots[screen]?.y, place).to.be.closeTo(slot?.y ?? 0, 40);
        const { url, bytes, began } = download ?? {};
        expect(own?.downloads[screen], place).to.include({ url, bytes, began });
      }
    }
    for (const real of seen.pages) {
      const own = run.pages.find(({ path }) => path === real.path);
      const traffic = (visits: typeof real.visits = []) =>
        visits.map(({ firstView, whole }) => ({ firstView, whole }));
      expect(traffic(own?.visits), real.path).to.deep.equal(traffic(real.visits));
    }
  });

  it('is told of in the report', async () => {
    const { out } = await yukkuri(['audit', folder, ...screens, '--encode', 'none']);
    const plain = out.replace(/\s+/g, ' ');
    expect(plain).to.match(
      /1[67]\d of 200 pages were read from their files, \d+ of these only on some of the screens/,
    );
    expect(plain).to.match(/\d+ pages visited on low \(text decides/);
    expect(plain).to.include('a fault on one page in 20 shows with 95 %');
    expect(plain).to.match(/(\d+) of \1 addresses are as they would have been read/);
  });
});
