import { expect } from 'chai';
import type { Check } from '../../dist/src/core/judging/check.js';
import { checks } from '../../dist/src/core/checks/index.js';
import { defaultTrifles } from '../../src/core/bytes/trifles.js';
import { defaultReach } from '../../src/core/layout/reach.js';
import type { Run } from '../../src/core/run/index.js';
import { readImageFacts, measurePicture } from '../../dist/src/images/index.js';
import { measureLazyDistance, sweep, visit } from '../../dist/src/browser/index.js';
import { died } from '../../dist/src/browser/errors.js';
import { openFolder } from '../../dist/src/site/index.js';
import { audit, type AuditOptions } from '../../dist/src/survey/index.js';
import { page, photo, removeSites, siteOf } from '../support/program.js';

type Stages = NonNullable<AuditOptions['stages']>;

const screen = { name: 'phone', width: 400, height: 800, density: 2, touch: true, share: 1 };
const silent = { begin: () => undefined, step: () => undefined };

const image = (name: string) =>
  `<img src="${name}.jpg" srcset="${name}.jpg 600w" sizes="100vw" style="width:50%" alt="A hut">`;

async function runWith(folder: string, stages: Stages, distance?: number): Promise<Run> {
  const site = await openFolder(folder);
  try {
    const { run } = await audit(
      site,
      {
        screens: [screen],
        pageLimitMs: 30_000,
        atOnce: 2,
        allowOtherHosts: false,
        toolVersion: 'test',
        wishes: {
          formats: ['avif', 'webp'],
          trifles: defaultTrifles,
          keepCredits: false,
          crops: false,
          sharpness: Number.POSITIVE_INFINITY,
        },
        looks: 73,
        reach: defaultReach,
        encode: 'enough',
        // Measured once: that it can be is tested below.
        stages: {
          ...(distance === undefined ? {} : { lazyDistance: () => Promise.resolve(distance) }),
          ...stages,
        },
      },
      silent,
    );
    return run;
  } finally {
    await site.close();
  }
}

/** What a run says of one page, but for shares of visits, which others' faults may change. */
const saidOf = (run: Run, path: string) => ({
  placements: run.placements.filter(({ page: own }) => own === path),
  sweeps: run.sweeps.filter(({ placement }) => placement.startsWith(`${path}#`)),
  findings: run.findings
    .filter(({ placement }) => placement.startsWith(`${path}#`))
    .map(({ check, says }) => `${check}: ${says}`),
  texts: run.fixes
    .filter(({ pages }) => pages.includes(path))
    .flatMap(({ places }) => places.filter((place) => place.page === path).map(({ after }) => after)),
});

const fault = (): never => {
  throw new Error('a fault on purpose');
};

/** The checks, one of them with another part of its own. */
const withCheck = (id: string, change: (check: Check) => Partial<Check>): Stages => ({
  checks: checks.map((check) => (check.id === id ? { ...check, ...change(check) } : check)),
});

/** A part of what a check finds on the second page fails. */
const atSecond = (part: 'remedy' | 'words'): Stages =>
  withCheck('older-format', (check) => ({
    examine: (facts) =>
      check
        .examine(facts)
        .map((found) => (found.placement.page === '/second.html' ? { ...found, [part]: fault } : found)),
  }));

const stages: Record<string, { stages: Stages; said: RegExp; screen?: string }> = {
  'a visit': {
    stages: {
      visit: (browser, order) => (order.url.endsWith('second.html') ? fault() : visit(browser, order)),
    },
    said: /the visit on phone failed/,
  },
  'a sweep': {
    stages: {
      sweep: (browser, order) => (order.url.endsWith('second.html') ? fault() : sweep(browser, order)),
    },
    said: /the sweep failed/,
  },
  'reading a file': {
    stages: { readFacts: (url, content) => (url === '/two.jpg' ? fault() : readImageFacts(url, content)) },
    said: /two\.jpg|^$/,
  },
  'measuring a picture': {
    stages: {
      measure: (content, order) => (order.width === 601 ? fault() : measurePicture(content, order)),
    },
    said: /two\.jpg cannot be encoded/,
  },
  'what a check proposes': { stages: atSecond('remedy'), said: /the check "older-format" failed at / },
  'what a check says': { stages: atSecond('words'), said: /the check "older-format" failed at / },
};

describe('a fault of the program', function () {
  this.timeout(120_000);
  let folder = '';
  let sound: Run;

  before(async () => {
    folder = await siteOf({
      'index.html': page(image('one')),
      'second.html': page(image('two')),
      'one.jpg': await photo(600, 400, 92),
      'two.jpg': await photo(601, 400, 92),
    });
    sound = await runWith(folder, {});
  });
  after(removeSites);

  for (const [stage, { stages: faulty, said }] of Object.entries(stages))
    it(`in ${stage} costs what it touches, and is told`, async () => {
      const run = await runWith(folder, faulty, sound.conditions.lazyDistance);
      expect(saidOf(run, '/')).to.deep.equal(saidOf(sound, '/'));
      expect(saidOf(run, '/second.html')).to.not.deep.equal(saidOf(sound, '/second.html'));
      expect(run.incomplete.map(({ why }) => why).join('\n')).to.match(said);
      expect(run.incomplete.every(({ page: path }) => path === '/second.html')).to.equal(true);
    });

  it('in measuring how early lazy images load leaves all else as it is, and is told', async () => {
    const run = await runWith(folder, {
      lazyDistance: () => Promise.reject(new Error('a fault on purpose')),
    });
    for (const path of ['/', '/second.html']) expect(saidOf(run, path)).to.deep.equal(saidOf(sound, path));
    expect(run.incomplete.map(({ why }) => why).join('\n')).to.match(
      /^measuring how early lazy images load failed: a fault on purpose/,
    );
  });

  it('in a browser that dies while that is measured is made good by a second try', async () => {
    let tries = 0;
    const run = await runWith(folder, {
      lazyDistance: (browser) =>
        tries++ === 0 ? Promise.reject(died('killed')) : measureLazyDistance(browser),
    });
    expect(tries).to.equal(2);
    expect(run.incomplete).to.deep.equal([]);
    expect(run.conditions).to.deep.equal(sound.conditions);
  });

  it('is none where a page runs out of time once: it is looked at once more', async () => {
    let looks = 0;
    const run = await runWith(
      folder,
      {
        visit: (browser, order) =>
          order.url.endsWith('second.html') && looks++ === 0
            ? visit(browser, { ...order, limitMs: 1 })
            : visit(browser, order),
      },
      sound.conditions.lazyDistance,
    );
    expect(looks).to.equal(2);
    expect(run.incomplete).to.deep.equal([]);
    for (const path of ['/', '/second.html']) expect(saidOf(run, path)).to.deep.equal(saidOf(sound, path));
  });

  it('is none where pages always run out of time, and what is seen of them stays: three second looks in vain are enough', async () => {
    const names = Array.from({ length: 7 }, (_, index) => `${index}.html`);
    const many = await siteOf({
      ...Object.fromEntries(names.map((name) => [name, page(image('one'))])),
      'one.jpg': await photo(600, 400, 92),
    });
    let looks = 0;
    const run = await runWith(
      many,
      { visit: (browser, order) => visit(browser, { ...order, limitMs: ++looks && 1 }) },
      sound.conditions.lazyDistance,
    );
    // Two at once: one more may have begun when the third has ended.
    expect(looks - names.length).to.be.within(3, 4);
    expect(new Set(run.incomplete.map(({ why }) => why.replace(/ \(.*/s, '')))).to.deep.equal(
      new Set(['the page did not settle within 0.001 s']),
    );
    expect(run.pages.flatMap(({ visits }) => visits.map(({ state }) => state))).to.not.include('complete');
  });
});
