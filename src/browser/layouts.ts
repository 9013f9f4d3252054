import { causeInWords } from '../core/wording/words.js';
import type { ElementBox } from '../core/mending/box-changes.js';
import type { Screen } from '../core/run/index.js';
import type { Browser } from './browser.js';
import { BrowserError } from './errors.js';
import { mostMotionMs } from './measured-page.js';
import { scrollDown } from './sweep.js';
import type { PageAccess } from './page-access.js';
import { withPage } from './with-page.js';

export interface LayoutOrder extends PageAccess {
  url: string;
  limitMs: number;
  /** Widths of the viewport, CSS px. */
  widths: readonly number[];
}

export interface LayoutRecord {
  /** Every element's box with all images there, by the width of the viewport. */
  boxes: Map<number, readonly ElementBox[]>;
  problem?: string;
}

const height = 900;

/**
 * Where every element of a page lies at some widths of the viewport, once all its images are there.
 * @throws {BrowserError} when the browser dies
 */
export async function layoutsAt(browser: Browser, order: LayoutOrder): Promise<LayoutRecord> {
  const record: LayoutRecord = { boxes: new Map() };
  const [first = 1280] = order.widths;
  const screen: Screen = { name: 'layout', width: first, height, density: 1, touch: false, share: 0 };
  try {
    await withPage(browser, { ...order, screen }, async (page) => {
      await page.load(order.url);
      page.departures.close();
      await page.call('stopPainting');
      await page.release();
      await page.quiet('waiting for the page to settle');
      for (const width of order.widths) {
        await page.resize(width, height);
        await page.quiet('waiting for the page to settle in another width');
        // Another width shows other lazy images.
        if (width === first || (await page.call('scrollMattersStill'))) {
          await scrollDown(page);
          await page.quiet('waiting for the page to settle in another width');
        }
        await page.call('motionEnds', mostMotionMs);
        record.boxes.set(width, await page.call('elementBoxes'));
      }
    });
  } catch (cause) {
    if (cause instanceof BrowserError) throw cause;
    record.problem = causeInWords(cause);
  }
  return record;
}
