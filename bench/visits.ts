/* eslint-disable no-console -- prints its results */
/**
 * Times visits of the demo against opening the same pages bare, with the same browser, screens and number at once, and tells what a visit
 * spends where. Needs a build.
 */
import pLimit from 'p-limit';
import { drawDemoSite } from '../dist/demo/draw.js';
import { Browser, visit } from '../dist/src/browser/index.js';
import { MeasuredPage } from '../dist/src/browser/measured-page.js';
import { defaultScreens, type Screen } from '../dist/src/core/run/index.js';
import { readImageFacts } from '../dist/src/images/index.js';
import { openFolder, type Site } from '../dist/src/site/index.js';
import { pickOf } from '../dist/src/survey/pick-of.js';
import { openBare } from './open-bare.js';

const atOnce = 4;
const rounds = 3;

const silent = { begin: () => undefined, step: () => undefined };

interface Round {
  /** Seconds for all pages on all screens. */
  bare: number;
  visits: number;
}

const sizes = new Map<string, { width: number; height: number }>();

/** Where the time of visits goes, ms, by step. */
const steps = new Map<string, number>();

async function timed(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

/** Notes how long every step of a visit takes. Steps do not stand inside each other. */
function watchSteps(): void {
  const prototype = MeasuredPage.prototype;
  const { within } = prototype;
  prototype.within = async function <Value>(this: MeasuredPage, step: string, work: Promise<Value>) {
    const began = performance.now();
    try {
      return (await within.call(this, step, work)) as Value;
    } finally {
      const name = step.replace(/ \d+ px$/, '');
      steps.set(name, (steps.get(name) ?? 0) + performance.now() - began);
    }
  };
}

function everywhere(site: Site, work: (url: string, screen: Screen) => Promise<unknown>): Promise<unknown> {
  const limit = pLimit(atOnce);
  return Promise.all(
    site.pages.flatMap(({ path }) =>
      defaultScreens.map((screen) => limit(() => work(site.origin + path, screen))),
    ),
  );
}

async function oneRound(site: Site, browser: Browser): Promise<Round> {
  const allows = (url: string) => url.startsWith(site.origin) || /^(data|blob|about):/.test(url);
  const sizeOf = async (url: string) => {
    const file = site.fileAt(url.slice(site.origin.length));
    if (file === undefined) return undefined;
    const known = sizes.get(file) ?? (await readImageFacts(url, await site.read(file)));
    sizes.set(file, known);
    return known.width > 0 ? known : undefined;
  };
  const bare = await timed(() => everywhere(site, (url, screen) => openBare(browser, screen, url)));
  const visits = await timed(() =>
    everywhere(site, (url, screen) =>
      visit(browser, {
        url,
        screen,
        limitMs: 60_000,
        allows,
        sizeOf,
        pickOf: (element, base, viewport) => pickOf(element, base, { ...screen, ...viewport }),
      }),
    ),
  );
  return { bare: bare / 1000, visits: visits / 1000 };
}

const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

async function benchVisits(folder?: string): Promise<void> {
  const site = await openFolder(folder ?? (await drawDemoSite(undefined, silent)));
  const browser = await Browser.open({}, { allows: (url) => url.startsWith(site.origin) });
  watchSteps();
  try {
    const all: Round[] = [];
    for (let round = 0; round < rounds; round++) all.push(await oneRound(site, browser));
    const visits = site.pages.length * defaultScreens.length;
    console.log(
      `${site.name}: ${site.pages.length} pages on ${defaultScreens.length} screens, ${atOnce} at once, median of ${rounds}`,
    );
    console.log(`opened bare  ${median(all.map(({ bare }) => bare)).toFixed(1)} s`);
    console.log(`visited      ${median(all.map((each) => each.visits)).toFixed(1)} s`);
    console.log(`ratio        ${median(all.map((each) => each.visits / each.bare)).toFixed(2)}`);
    console.log('\nwaited for in each visit, ms:');
    const rows = [...steps]
      .sort((a, b) => b[1] - a[1])
      .map(([name, ms]) => [ms / visits / rounds, name] as const);
    for (const [ms, name] of rows.filter(([each]) => each >= 1))
      console.log(`${ms.toFixed(0).padStart(6)}  ${name}`);
  } finally {
    await browser.close();
    await site.close();
  }
}

await benchVisits(process.argv[2]);
