import { toDecimals } from '../core/wording/rounding.js';
import { causeInWords } from '../core/wording/words.js';
import { drawnSize } from '../core/layout/drawn-size.js';
import type { SlotSample } from '../core/layout/slot-pieces.js';
import { firstWidths, SweepPlan, type WidthRow } from '../core/layout/sweep-plan.js';
import type { Browser } from './browser.js';
import { BrowserError } from './errors.js';
import type { MeasuredPage } from './measured-page.js';
import type { GateWatch } from './outer-gate.js';
import type { PageAccess } from './page-access.js';
import { noRest, rest, restAfterResize } from './script-layouts.js';
import { sweepWindow } from './sweep-window.js';
import { timersRunAheadMs } from './visit.js';
import { withPage } from './with-page.js';
import type { Measurement, SweptSize } from './in-page/protocol.js';

export interface SweepOrder extends PageAccess {
  url: string;
  limitMs: number;
  /** Only placements that this CSS selector matches, or that stand inside what it matches. */
  match?: string;
  /** Told all that is asked for. */
  watch?: GateWatch;
  /** Measure exactly these widths instead of choosing them, CSS px. */
  widths?: readonly number[];
}

/** Slots of a page's placements over the width of the viewport. */
export interface SweepRecord {
  /** By node: samples ascending in width. Widths at which the placement has no box are left out. */
  slots: Map<string, SlotSample[]>;
  /** The width at which the whole picture is drawn, of those only for which `object-fit` makes it another than the slot's. */
  drawn: Map<string, SlotSample[]>;
  /** Nodes of placements whose slot also depends on the viewport's height. */
  dependsOnHeight: Set<string>;
  /** Of those that are drawn to cover their slot: how high the slot is at two heights of the viewport. */
  heights: Map<string, HeightProbe[]>;
  /** Nodes of images whose slot takes its width from the file that is picked, so that it has none of its own. */
  widthFromFile: Set<string>;
  /** Nodes of images that are as wide as `sizes` says, up to what a style allows, which is what was swept. */
  widthByClaim: Set<string>;
  /** Of images that have no box at any width: the node of one that stands alike in a slide beside it, whose slots are given for them. */
  alike: Map<string, string>;
  widths: number;
  /** The page as it was before the sweep. */
  page: Measurement | undefined;
  /** Nodes that `match` chose; undefined when it was not given. */
  matched?: Set<string>;
  problem?: string;
}

/** How high a slot is in two windows of one width, CSS px. */
export interface HeightProbe {
  viewport: number;
  /** In a window of `usual` and of `other` height. */
  atUsual: number;
  atOther: number;
  /** Width of the picture over its height. */
  ratio: number;
}

/** Heights that tell whether a slot depends on the height, at some ordinary widths. */
export const sweepHeights = { usual: sweepWindow.height, other: 700 };
const heightProbes = [390, 820, 1440];

/**
 * Loads a page once, scrolls it through so that all images are there, then resizes it to many widths and records the slots.
 * A page that does not settle gives no slots and a reason.
 * @throws {BrowserError} when the browser dies
 */
export async function sweep(browser: Browser, order: SweepOrder): Promise<SweepRecord> {
  const record: SweepRecord = {
    slots: new Map(),
    drawn: new Map(),
    dependsOnHeight: new Set(),
    heights: new Map(),
    widthFromFile: new Set(),
    widthByClaim: new Set(),
    alike: new Map(),
    widths: 0,
    page: undefined,
  };
  try {
    await withPage(browser, { ...order, screen: sweepWindow }, (page) => sweepPage(page, order, record));
  } catch (cause) {
    if (cause instanceof BrowserError) throw cause;
    record.problem = causeInWords(cause);
  }
  return record;
}

async function sweepPage(page: MeasuredPage, order: SweepOrder, record: SweepRecord): Promise<void> {
  await page.load(order.url);
  page.departures.close();
  await page.call('stopPainting');
  await page.release();
  await page.quiet('waiting for the page to settle before the sweep');
  // What comes by a timer is there before the widths are measured.
  await page.runTimersAhead(timersRunAheadMs, () => Promise.resolve());
  await scrollDown(page);
  record.page = await page.measure();
  if (order.match !== undefined) record.matched = new Set(await page.call('matching', order.match));
  const alike = await page.call('shownAlike');
  const { fromFile, byClaim } = await page.call('widthsFromFile');
  record.widthFromFile = new Set(fromFile);
  record.widthByClaim = new Set(byClaim);
  await page.quiet('waiting for the page to settle before the sweep');
  const needed = record.page.scripted ? await restAfterResize(page) : noRest;
  const measure: Measure = async (width, height = sweepHeights.usual) => {
    await page.resize(width, height);
    await rest(page, needed);
    return rowOf(await page.call('slotSizes'));
  };
  const rows = order.widths
    ? await measureAll(measure, order.widths)
    : await measureAdaptively(measure, await page.call('breakpoints'), record.widthFromFile);
  record.widths = rows.size;
  collect(rows, record);
  addAlike(record, alike);
  if (!order.widths) await findHeightDependence(measure, rows, record);
}

/** Scrolls a page through, so that its lazy images are asked for, and back. */
export async function scrollDown(page: MeasuredPage): Promise<void> {
  await page.scriptsComplete();
  for (let steps = 0; steps < 100; steps++) {
    const { position, end, step } = await page.call('scrollRange');
    if (position >= end - 1) break;
    await page.call('scrollTo', Math.min(end, position + step));
    await page.quiet('waiting while scrolling');
    await page.scriptsComplete();
    if ((await page.call('scrollRange')).position <= position) break;
  }
  await page.call('scrollTo', 0);
}

/** What was measured at one width: slots by node, and the widths by which the plan decides where to look next. */
interface SweepRow {
  sizes: ReadonlyMap<string, SweptSize | null>;
  widths: WidthRow;
}

/** Of a placement whose picture is drawn wider or narrower than its slot, that width counts beside the slot's. */
const drawnKey = (node: string) => `drawn ${node}`;

/** A picture of nearly the slot's shape is drawn as wide as the slot: boxes and files are rounded. */
const sameShape = 0.01;

const isFitted = ({ fit, ratio, width, height }: SweptSize) =>
  fit !== 'fill' && ratio > 0 && height > 0 && Math.abs(width / height / ratio - 1) > sameShape;

/** The file's own size is not known here: what depends on it, `none` and `scale-down`, counts as the slot. */
function drawnWidth({ width, height, fit, ratio }: SweptSize): number {
  return fit === 'cover' || fit === 'contain'
    ? drawnSize({ width, height }, { width: ratio, height: 1 }, fit).width
    : width;
}

/** Looks at a page in a window of a size, CSS px; of the usual height if none is named. */
type Measure = (width: number, height?: number) => Promise<SweepRow>;

async function measureAdaptively(
  measure: Measure,
  breakpoints: readonly number[],
  ignored: ReadonlySet<string>,
): Promise<Map<number, SweepRow>> {
  const plan = new SweepPlan(new Set([...ignored].flatMap((node) => [node, drawnKey(node)])));
  const rows = await measureAll(measure, firstWidths(breakpoints));
  const widthsOf = (measured: ReadonlyMap<number, SweepRow>) =>
    new Map([...measured].map(([width, row]) => [width, row.widths]));
  plan.begin(widthsOf(rows));
  for (let wanted = plan.wanted(); wanted.length > 0; wanted = plan.wanted()) {
    const more = await measureAll(measure, wanted);
    for (const [width, row] of more) rows.set(width, row);
    plan.take(widthsOf(more));
  }
  return rows;
}

async function measureAll(measure: Measure, widths: readonly number[]): Promise<Map<number, SweepRow>> {
  const rows = new Map<number, SweepRow>();
  for (const width of widths) rows.set(width, await measure(width));
  return rows;
}

function rowOf(slots: Readonly<Record<string, SweptSize | null>>): SweepRow {
  const sizes = new Map(Object.entries(slots));
  const widths = new Map<string, number | null>();
  for (const [node, size] of sizes) {
    widths.set(node, size && size.width);
    if (size && isFitted(size)) widths.set(drawnKey(node), drawnWidth(size));
  }
  return { sizes, widths };
}

function collect(rows: ReadonlyMap<number, SweepRow>, { slots, drawn }: SweepRecord): void {
  const add = (to: Map<string, SlotSample[]>, node: string, viewport: number, slot: number) => {
    const samples = to.get(node) ?? [];
    samples.push({ viewport, slot: toDecimals(slot, 3) });
    to.set(node, samples);
  };
  for (const viewport of [...rows.keys()].sort((a, b) => a - b)) {
    for (const [node, size] of rows.get(viewport)?.sizes ?? []) {
      if (!size || size.width === 0) continue;
      add(slots, node, viewport, size.width);
      if (isFitted(size)) add(drawn, node, viewport, drawnWidth(size));
    }
  }
  // Fitted at some widths only: at the others the slot is what is drawn.
  for (const [node, samples] of drawn) {
    const fitted = new Map(samples.map(({ viewport, slot }) => [viewport, slot]));
    const all = slots.get(node) ?? [];
    drawn.set(
      node,
      all.map(({ viewport, slot }) => ({ viewport, slot: fitted.get(viewport) ?? slot })),
    );
  }
}

/** Gives hidden slides the slots of those beside them, unless what is drawn there depends on the shape of the picture. */
function addAlike({ slots, drawn, alike }: SweepRecord, shown: Readonly<Record<string, string>>): void {
  for (const [node, other] of Object.entries(shown)) {
    const samples = slots.get(other);
    if (slots.has(node) || !samples || drawn.has(other)) continue;
    alike.set(node, other);
    slots.set(node, samples);
  }
}

async function findHeightDependence(
  measure: Measure,
  rows: ReadonlyMap<number, SweepRow>,
  record: SweepRecord,
): Promise<void> {
  for (const width of heightProbes) {
    const usual = rows.get(width) ?? (await measure(width));
    const other = await measure(width, sweepHeights.other);
    for (const [node, size] of other.sizes) {
      const before = usual.sizes.get(node) ?? null;
      if (Math.abs((before?.width ?? 0) - (size?.width ?? 0)) > 1) record.dependsOnHeight.add(node);
      if (!before || !size || size.fit !== 'cover' || size.ratio === 0) continue;
      const probes = record.heights.get(node) ?? [];
      probes.push({ viewport: width, atUsual: before.height, atOther: size.height, ratio: size.ratio });
      record.heights.set(node, probes);
    }
  }
}
