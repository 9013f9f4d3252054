import type { Screen } from '../core/run/index.js';
import { firstWidths, SweepPlan, type WidthRow } from '../core/layout/sweep-plan.js';
import { died, type Browser } from './browser.js';
import { MeasuredPage } from './measured-page.js';
import type { Measurement } from './in-page/protocol.js';

export interface SweepOrder {
  url: string;
  limitMs: number;
  allows(url: string): boolean;
  /** Only placements that this CSS selector matches, or that stand inside what it matches. */
  match?: string;
  /** Measure exactly these widths instead of choosing them, CSS px. */
  widths?: readonly number[];
}

/** Slots of a page's placements over the width of the viewport. */
export interface SweepRecord {
  /** By selector: samples ascending in width. Widths at which the placement has no box are left out. */
  slots: Map<string, { viewport: number; slot: number }[]>;
  /** Selectors of placements whose slot also depends on the viewport's height. */
  dependsOnHeight: Set<string>;
  /** Selectors of images whose slot takes its width from the file that is picked, so that it has none of its own. */
  widthFromFile: Set<string>;
  widths: number;
  /** The page as it was before the sweep. */
  page: Measurement | undefined;
  /** Selectors that `match` chose; undefined when it was not given. */
  matched?: Set<string>;
  problem?: string;
}

/** The window in which a page is swept: a laptop's height, one device px per CSS px, so that little is painted. */
const window: Screen = { name: 'sweep', width: 1280, height: 900, density: 1, touch: false, share: 0 };

/** Heights that tell whether a slot depends on the height, at some ordinary widths. */
const otherHeight = 700;
const heightProbes = [390, 820, 1440];

/**
 * Loads a page once, scrolls it through so that all images are there, then resizes it to many widths and records the slots.
 * A page that does not settle gives no slots and a reason.
 * @throws {BrowserError} when the browser dies
 */
export async function sweep(browser: Browser, order: SweepOrder): Promise<SweepRecord> {
  const record: SweepRecord = {
    slots: new Map(),
    dependsOnHeight: new Set(),
    widthFromFile: new Set(),
    widths: 0,
    page: undefined,
  };
  const context = await browser.context(window);
  try {
    const page = await MeasuredPage.open(context, order.limitMs, {
      allows: (url) => order.allows(url),
      onRefused: () => undefined,
    });
    await page.load(order.url);
    await page.release();
    await page.quiet('waiting for the page to settle before the sweep');
    await scrollDown(page);
    record.page = await page.call('measure');
    if (order.match !== undefined) record.matched = new Set(await page.call('matching', order.match));
    record.widthFromFile = new Set(await page.call('widthsFromFile'));
    const rows = order.widths
      ? await measureAll(page, order.widths)
      : await measureAdaptively(page, record.widthFromFile);
    record.widths = rows.size;
    collect(rows, record);
    if (!order.widths) await findHeightDependence(page, rows, record);
  } catch (cause) {
    if (!(await browser.alive())) throw died(cause);
    record.problem = cause instanceof Error ? cause.message : String(cause);
  } finally {
    await context.close().catch(() => undefined);
  }
  return record;
}

async function scrollDown(page: MeasuredPage): Promise<void> {
  for (let steps = 0; steps < 100; steps++) {
    const { position, end, step } = await page.call('scrollRange');
    if (position >= end - 1) break;
    await page.call('scrollTo', Math.min(end, position + step));
    await page.quiet('waiting while scrolling before the sweep');
    if ((await page.call('scrollRange')).position <= position) break;
  }
  await page.call('scrollTo', 0);
}

async function measureAdaptively(
  page: MeasuredPage,
  ignored: ReadonlySet<string>,
): Promise<Map<number, WidthRow>> {
  const plan = new SweepPlan(ignored);
  plan.begin(await measureAll(page, firstWidths(await page.call('breakpoints'))));
  for (let wanted = plan.wanted(); wanted.length > 0; wanted = plan.wanted())
    plan.take(await measureAll(page, wanted));
  return plan.rows;
}

async function measureAll(page: MeasuredPage, widths: readonly number[]): Promise<Map<number, WidthRow>> {
  const rows = new Map<number, WidthRow>();
  for (const width of widths) rows.set(width, await measureAt(page, width, window.height));
  return rows;
}

async function measureAt(page: MeasuredPage, width: number, height: number): Promise<WidthRow> {
  await page.resize(width, height);
  const widths = await page.call('slotWidths');
  return new Map(Object.entries(widths));
}

function collect(rows: ReadonlyMap<number, WidthRow>, { slots }: SweepRecord): void {
  for (const viewport of [...rows.keys()].sort((a, b) => a - b)) {
    for (const [selector, slot] of rows.get(viewport) ?? []) {
      if (slot === null || slot === 0) continue;
      const samples = slots.get(selector) ?? [];
      samples.push({ viewport, slot: Math.round(slot * 1000) / 1000 });
      slots.set(selector, samples);
    }
  }
}

async function findHeightDependence(
  page: MeasuredPage,
  rows: ReadonlyMap<number, WidthRow>,
  record: SweepRecord,
): Promise<void> {
  for (const width of heightProbes) {
    const usual = rows.get(width) ?? (await measureAt(page, width, window.height));
    for (const [selector, slot] of await measureAt(page, width, otherHeight)) {
      const before = usual.get(selector) ?? null;
      if (Math.abs((before ?? 0) - (slot ?? 0)) > 1) record.dependsOnHeight.add(selector);
    }
  }
}
