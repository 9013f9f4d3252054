import { structuralSelectors } from '../core/markup/script-selectors.js';
import { causeInWords } from '../core/wording/words.js';
import type { PictureWrap, Screen } from '../core/run/index.js';
import type { Browser } from './browser.js';
import { mostReloads, sameDocument } from './departures.js';
import { showsAwaited } from './awaited-images.js';
import { BrowserError, LeftMeanwhile, VisitTimeout } from './errors.js';
import { MeasuredPage } from './measured-page.js';
import type { Measurement, ScrollRange } from './in-page/protocol.js';
import { releaseImages, type ImageRelease, type PickOf, type SizeOf } from './releases.js';
import type { LoggedRequest } from './network-log.js';
import type { GateWatch } from './outer-gate.js';
import type { PageAccess } from './page-access.js';
import { findWrittenImages, type WrittenImages } from './written-images.js';

export interface VisitOrder extends PageAccess {
  url: string;
  screen: Screen;
  limitMs: number;
  /** The size of the picture at an address, if it is known: so that boxes of the right shape need no release of their own. */
  sizeOf: SizeOf;
  /** The address that an image will take, as far as its markup tells. */
  pickOf: PickOf;
  /** CSS selectors of which `matched` tells. */
  match?: readonly string[];
  /** Whether nothing is wanted but the first view as pictures, held and loaded. */
  viewsOnly?: boolean;
  /** Told all that is asked for, whoever asks: workers too, of which no page's log tells. */
  watch?: GateWatch;
}

/** What one fresh load of a page on one screen saw. */
export interface VisitRecord {
  /** Images held back: what the visitor sees while waiting. */
  waiting: Measurement | undefined;
  /** The same as a picture, PNG in device px; where no image is awaited in view only if views were asked for. */
  heldView: Buffer | undefined;
  /** What the first view looks like with its images, if that was asked for. */
  loadedView: Buffer | undefined;
  /** Settled before any scroll. */
  firstView: Measurement | undefined;
  /** After each of the page's own timers that was run ahead. */
  later: Measurement[];
  /** Scrolled to the end and back. */
  final: Measurement | undefined;
  /** How a `picture` can be put around images, by node. */
  pictureWraps: Map<string, PictureWrap>;
  /** Nodes of images whose boxes depend on the natural size of their files although styles seem to set them. */
  followingFile: Set<string>;
  written: WrittenImages;
  /** CSS px, by node: images whose style allows them a share of a block that is only as wide as what it holds. */
  widthLimits: Map<string, number>;
  /** The address of the document that was shown at last; empty where there was none. */
  landed: string;
  requests: LoggedRequest[];
  /** Nodes of the placements that each of `match` chose. */
  matched: Map<string, string[]>;
  /** The images as they were let through, with what moved. */
  releases: ImageRelease[];
  /** Addresses that were refused. */
  refused: string[];
  /** Why the visit is not complete, if it is not. */
  incomplete: string[];
  /** Whether it ended because of its limit of time. */
  timedOut: boolean;
}

/** So much of its own time a page is let be once it is quiet, ms: slides change, and what comes late has come. */
export const timersRunAheadMs = 10_000;

/** Strips that go round show a few of their images at once: so many looks meet each of them. */
const endlessLooks = 12;

/** A page that still grows then is one that never ends. */
const mostGrowths = 20;

/** Scrolling stops after this many viewports: a page that grows as it is scrolled has no end. */
const mostSteps = 200;

/**
 * Visits a page: load with images held, measure, release, measure, scroll to the end, measure.
 * A page that does not settle gives what was seen of it, and the reason.
 * @throws {BrowserError} when the browser dies; the visit can be made again
 */
export async function visit(browser: Browser, order: VisitOrder): Promise<VisitRecord> {
  const record: VisitRecord = {
    waiting: undefined,
    heldView: undefined,
    loadedView: undefined,
    firstView: undefined,
    later: [],
    final: undefined,
    pictureWraps: new Map(),
    followingFile: new Set(),
    written: { addressed: new Map(), sharing: new Set() },
    widthLimits: new Map(),
    landed: '',
    requests: [],
    matched: new Map(),
    releases: [],
    refused: [],
    incomplete: [],
    timedOut: false,
  };
  const { screen, cookies, watch } = order;
  let page: MeasuredPage | undefined;
  try {
    await browser.inTab({ touch: screen.touch, cookies, watch }, async (tab) => {
      page = await MeasuredPage.open(tab, order, (url) => record.refused.push(url));
      await seeWhole(page, order, record);
    });
  } catch (cause) {
    if (cause instanceof BrowserError) throw cause;
    record.incomplete.push(causeInWords(cause));
  }
  record.requests = page?.log.requests() ?? [];
  record.landed = page?.departures.destination ?? '';
  return record;
}

/** @throws whatever ended the visit, but for a limit of time: then what is there is saved */
async function seeWhole(page: MeasuredPage, order: VisitOrder, record: VisitRecord): Promise<void> {
  try {
    await walkThrough(page, order, record);
    record.incomplete.push(...page.notReady);
    if (page.departures.loops)
      record.incomplete.push('the page loads itself anew without end, and was held where it was');
    if (page.restless !== undefined)
      record.incomplete.push(
        `the page never stops asking for things (seen while ${page.restless}): what comes later is not in what was seen`,
      );
    for (const selector of order.match ?? [])
      record.matched.set(selector, await page.call('matching', selector));
  } catch (cause) {
    if (!(cause instanceof VisitTimeout)) throw cause;
    record.timedOut = true;
    record.incomplete.push(causeInWords(cause));
    await saveWhatIsThere(page, record);
  }
}

async function walkThrough(
  page: MeasuredPage,
  { url, screen, pickOf, sizeOf, viewsOnly }: VisitOrder,
  record: VisitRecord,
): Promise<void> {
  await page.load(url);
  await getQuiet(page);
  if (!sameDocument(page.departures.destination, url)) return;
  page.departures.looked();
  await page.call('holdEndless', 0);
  record.waiting = await page.measure();
  if (viewsOnly || showsAwaited(record.waiting, screen)) record.heldView = await page.picture();
  record.releases = await releaseImages(page, record.waiting, { pickOf, sizeOf });
  await page.call('holdEndless', 0);
  record.firstView = await page.measure();
  if (viewsOnly) {
    record.loadedView = await page.picture();
    return;
  }
  const scrollMatters = await page.call('scrollMatters');
  await page.staysHere('waiting where the page leads');
  page.departures.close();
  if (!sameDocument(page.departures.destination, url)) return;
  await page.call('stopPainting');
  page.log.leaveAlone();
  await page.runTimersAhead(timersRunAheadMs, async () => void record.later.push(await page.measure()));
  await followEndless(page, record);
  page.log.moveTo(0);
  if (scrollMatters) await scrollThrough(page, record, screen);
  record.final = await page.measure();
  // Nothing is seen after this: the page is changed and changed back.
  page.log.end();
  record.followingFile = new Set(await page.call('followingFile'));
  record.widthLimits = new Map(Object.entries(await page.call('widthLimits')));
  const scripts = await page.scripts();
  record.written = await findWrittenImages(page, scripts, record.final);
  const selectors = [...new Set(scripts.flatMap(structuralSelectors))];
  record.pictureWraps = new Map(Object.entries(await page.call('pictureWraps', selectors)));
}

/** Looks at what moves without end at several places of its way: what shows there comes into view by itself. */
async function followEndless(page: MeasuredPage, record: VisitRecord): Promise<void> {
  if (!(await page.call('holdEndless', 0))) return;
  for (let look = 1; look < endlessLooks; look++) {
    await page.call('holdEndless', look / endlessLooks);
    await page.quiet('waiting after something moved');
    record.later.push(await page.measure());
  }
  await page.call('holdEndless', 0);
}

/** Waits until the document is quiet, whichever it is: pages may load themselves anew a few times. */
async function getQuiet(page: MeasuredPage): Promise<void> {
  for (let again = 0; page.departures.ledTo === undefined; again++) {
    try {
      await page.quiet('waiting for style sheets, scripts and fonts');
      await page.staysHere('waiting where the page leads');
      return;
    } catch (cause) {
      if (!(cause instanceof LeftMeanwhile) || again >= mostReloads) throw cause;
      await page.staysHere('waiting for the page to load itself anew');
    }
  }
}

async function scrollThrough(page: MeasuredPage, record: VisitRecord, screen: Screen): Promise<void> {
  let steps = 0;
  let growths = 0;
  let height = 0;
  await page.scriptsComplete();
  await scrollInside(page);
  for (;;) {
    const range = await page.call('scrollRange');
    const { position, end, step } = range;
    if (height > 0 && end > height) growths++;
    height = end;
    if (position >= end - 1) break;
    if (growths > mostGrowths) {
      record.incomplete.push(
        `the page grew ${growths} times as it was scrolled, and scrolling stopped at ${Math.round(position)} px`,
      );
      break;
    }
    if (++steps > mostSteps) {
      record.incomplete.push(`scrolled ${mostSteps} viewports and stopped: the page goes on`);
      break;
    }
    const next = Math.min(end, position + step);
    page.log.moveTo(depthOnScreen(next, range, screen));
    await page.call('scrollTo', next);
    await page.quiet(`waiting after the scroll to ${next} px`);
    await page.scriptsComplete();
    await scrollInside(page);
    const reached = await page.call('scrollRange');
    // Pages can keep the scroll where it is.
    if (reached.position <= position) break;
  }
  await page.call('scrollTo', 0);
  await page.quiet('waiting after the scroll back to the top');
}

/**
 * How far a visitor has scrolled who has the page there, px of the screen: a page that is shown smaller is passed sooner, and where it is wider
 * than the screen the visitor moves through the window first.
 */
const depthOnScreen = (
  position: number,
  { step, unseen, isPage }: ScrollRange,
  { height }: Screen,
): number => (isPage ? Math.round(((position + unseen) * height) / step) : position);

async function scrollInside(page: MeasuredPage): Promise<void> {
  for (let steps = 0; steps < mostInnerSteps && (await page.call('scrollInner')); steps++)
    await page.quiet('waiting after a scroll inside the page');
}

/** A list inside the page that grows as it is scrolled has no end either. */
const mostInnerSteps = 20;

const graceMs = 2000;

/** After the limit: one short try to see what the page looks like now. */
async function saveWhatIsThere(page: MeasuredPage, record: VisitRecord): Promise<void> {
  const look = page.lookNow();
  let timer: NodeJS.Timeout | undefined;
  const patience = new Promise<undefined>((resolve) => {
    timer = setTimeout(() => resolve(undefined), graceMs);
  });
  const seen = await Promise.race([look, patience]).catch(() => undefined);
  clearTimeout(timer);
  // A page that does not answer any more was seen as it stood when it last did.
  record.final ??= seen ?? record.later.at(-1) ?? record.firstView;
  if (!seen) return;
  record.waiting ??= seen;
  record.firstView ??= seen;
}
