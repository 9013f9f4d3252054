import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { load } from 'cheerio';
import sharp, { type Sharp } from 'sharp';
import { drawDemoSite } from '../../dist/demo/draw.js';
import { checks } from '../../src/core/checks/index.js';
import { readRun, type Finding, type Run } from '../../src/core/run/index.js';
import { removeSites, siteOf, yukkuri } from '../support/program.js';

interface Entry {
  page: string;
  selector: string;
  need: string;
  magnitude: Record<string, number | string | boolean | Record<string, number>>;
}

interface Found extends Pick<Finding, 'check' | 'screens'> {
  page: string;
  selector: string;
}

const root = new URL('../../', import.meta.url);
const manifest = JSON.parse(await readFile(new URL('demo/manifest.json', root), 'utf8')) as {
  planted: Entry[];
  neighbours: Entry[];
};
const implemented = new Set(checks.map(({ id }) => id));
/** Of a lossy picture encodes tell too whether it is a drawing. */
const needEncodes = new Set(['graphic-stored-lossy', ...checks.flatMap(({ id, cut }) => (cut ? [id] : []))]);

/**
 * Names the element that a selector finds in a page's file by where it begins, so that two selectors can be compared; what stands in a frame
 * by the frame.
 */
async function elementAt(file: string, selector: string): Promise<string> {
  const html = await readFile(new URL(`demo/site/${file}`, root), 'utf8');
  const found = load(html, { sourceCodeLocationInfo: true })(selector.split(' >>> ')[0] ?? '');
  expect(found.length, `${file} ${selector}`).to.equal(1);
  const place = found.get(0)?.sourceCodeLocation;
  return `${file}:${place?.startLine}:${place?.startCol}`;
}

/**
 * The whole demo with its encodes takes long: it runs in `npm run conformance`. Otherwise the pictures of a few pages are encoded, and on the others what saves
 * bytes may not be found.
 */
const whole = Number(process.env['YUKKURI_CASES'] ?? 0) >= 10_000;

/** AVIF has 64 steps for a hundred qualities: one step more or less is up to 7 % of the bytes. */
const avifStep = 0.07;
const lossy = new Set(['jpeg', 'webp', 'avif']);

function encodeAs(picture: Sharp, format: string, quality: number): Sharp {
  if (format === 'jpeg') return picture.jpeg({ quality, progressive: true });
  return format === 'webp'
    ? picture.webp({ quality })
    : picture.avif({ quality, effort: 0, chromaSubsampling: '4:2:0' });
}

describe('the demo', function () {
  this.timeout(1_200_000);
  after(removeSites);
  let run: Run;
  let rerun: Run;
  /** Pages of frames and timers, of crops, and of what is fetched twice: where two visits differ if any do. */
  const again = ['/album.html', '/evenings.html', '/people.html', '/news/first-snow.html'];
  /** Findings of the run, of the pages that were looked at once more those with their encodes. */
  let findings: Found[];
  const fileOf = (path: string) => run.pages.find((page) => page.path === path)?.file ?? '';

  before(async () => {
    const folder = await siteOf({});
    const file = join(folder, 'run.json');
    const first = await yukkuri(['demo', ...(whole ? [] : ['--encode', 'none']), '--json', file]);
    expect(first.code, first.err).to.equal(0);
    run = readRun(JSON.parse(await readFile(file, 'utf8')));
    const second = await yukkuri(['demo', '--json', '--fresh', ...again.flatMap((path) => ['--page', path])]);
    rerun = readRun(JSON.parse(second.out));
    const found = ({ findings: all, placements }: Run) => {
      const byId = new Map(placements.map((placement) => [placement.id, placement]));
      return all.flatMap(({ placement, ...finding }): Found[] => {
        const { page, selector } = byId.get(placement) ?? { page: '', selector: '' };
        return [{ page, selector, check: finding.check, screens: finding.screens }];
      });
    };
    findings = whole
      ? found(run)
      : [...found(run).filter(({ page }) => !again.includes(page)), ...found(rerun)];
  });

  it('has at least 8 pages and 60 placements, all seen whole', () => {
    expect(run.pages.length).to.be.at.least(8);
    expect(run.placements.length).to.be.at.least(60);
    expect(run.incomplete).to.deep.equal([]);
  });

  it('sees the same when some of its pages are looked at once more, and finds the same', () => {
    const seen = ({ pages, placements, sweeps, findings }: Run) => {
      const own = (id: string) => again.includes(id.slice(0, id.lastIndexOf('#')));
      return {
        pages: pages.filter(({ path }) => again.includes(path)).map(({ weight: _, ...page }) => page),
        placements: placements.filter(({ page }) => again.includes(page)),
        sweeps: sweeps.filter(({ placement }) => own(placement)),
        checks: findings
          .filter(({ check, placement }) => own(placement) && (whole || !needEncodes.has(check)))
          .map(({ check, placement }) => `${check} ${placement}`),
      };
    };
    expect(rerun.pages.map(({ path }) => path)).to.have.members(again);
    expect(seen(rerun)).to.deep.equal(seen(run));
  });

  it('names every planted problem of the needs that have a check, and nothing else', async () => {
    const named = new Set<string>();
    for (const { check, page, selector } of findings)
      named.add(`${check} ${await elementAt(fileOf(page), selector)}`);
    const wanted = new Set<string>();
    for (const { page, selector, need } of manifest.planted) {
      if (!implemented.has(need)) continue;
      const planted = `${need} ${await elementAt(fileOf(page), selector)}`;
      const mayBeMissing = !whole && needEncodes.has(need) && !again.includes(page);
      if (!mayBeMissing || named.has(planted)) wanted.add(planted);
    }
    expect([...named].sort()).to.deep.equal([...wanted].sort());
  });

  it('names none of the neighbours that do it right', async () => {
    const named = new Set<string>();
    for (const { check, page, selector } of findings)
      named.add(`${check} ${await elementAt(fileOf(page), selector)}`);
    for (const { page, selector, need } of manifest.neighbours)
      expect([...named]).not.to.include(`${need} ${await elementAt(fileOf(page), selector)}`);
  });

  it('sees the planted problems in their size', async () => {
    for (const { page, selector, need, magnitude } of manifest.planted) {
      if (!implemented.has(need)) continue;
      const element = await elementAt(fileOf(page), selector);
      let finding;
      for (const candidate of findings) {
        if (candidate.check !== need || candidate.page !== page) continue;
        if ((await elementAt(fileOf(page), candidate.selector)) === element) finding = candidate;
      }
      if (!whole && !finding && !again.includes(page)) continue;
      for (const [name, value] of Object.entries(magnitude)) {
        if (typeof value !== 'object') continue;
        for (const [screen, amount] of Object.entries(value)) {
          const seen = Number(finding?.screens[screen]?.[name]);
          expect(seen, `${page} ${selector} ${name} on ${screen}`).to.be.closeTo(
            amount,
            Math.max(1, amount * 0.03),
          );
        }
      }
    }
  });

  it('promises the bytes that a real encode with the same setting has', async () => {
    const folder = await drawDemoSite(undefined, { begin: () => undefined, step: () => undefined });
    const promised = (whole ? run : rerun).fixes
      .filter(({ saves }) => saves.expected > 0)
      .flatMap(({ files }) => files)
      .filter(({ format, quality }) => quality !== null && lossy.has(format));
    expect(promised.length).to.be.above(whole ? 40 : 10);
    const seen = new Set<string>();
    for (const { name, from, width, format, quality, bytes, error } of promised) {
      const key = JSON.stringify([from, width, format, quality]);
      if (seen.has(key)) continue;
      seen.add(key);
      // Every third: the same encoders with other numbers.
      if (seen.size % 3 !== 0) continue;
      const file = run.files.find(({ url }) => url === from);
      if (format === 'webp' && file?.animated) continue;
      const picture = sharp(join(folder, from));
      const shown = file?.alpha === 'used' ? picture : picture.removeAlpha();
      const pixels = shown.resize({ width, fastShrinkOnLoad: false });
      const real = (await encodeAs(pixels, format, quality ?? 0).toBuffer()).length;
      expect(bytes, `${name} (${format}, quality ${quality})`).to.be.closeTo(
        real,
        real * Math.max(format === 'avif' ? avifStep : 0.05, error),
      );
    }
  });

  it('predicts every pick that the browser makes', () => {
    expect(run.picks.compared).to.be.above(300);
    expect(run.picks.disagreements).to.deep.equal([]);
  });

  it('adds the bytes of a visit up from its downloads', () => {
    for (const { visits } of run.pages) {
      for (const { downloads, firstView, whole, allBytes } of visits) {
        const delivered = downloads.filter(({ status }) => status < 400);
        const sum = delivered.reduce((total, { bytes }) => total + bytes, 0);
        expect(whole).to.deep.equal({ downloads: delivered.length, bytes: sum });
        expect(firstView.bytes).to.be.at.most(whole.bytes);
        expect(allBytes).to.be.above(whole.bytes);
      }
    }
  });

  it('computes each page’s layout shift as the browser reports it', () => {
    for (const { path, visits } of run.pages)
      for (const { screen, shift } of visits)
        expect(shift.score, `${path} on ${screen}`).to.be.closeTo(shift.observed, 0.005);
  });

  it('takes no more off a screen than it downloads', () => {
    for (const { expected, expectedAfter } of run.totals.screens) {
      expect(expectedAfter).to.be.above(0);
      expect(expectedAfter).to.be.below(expected);
    }
  });
});
