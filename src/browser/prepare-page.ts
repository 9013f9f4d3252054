import type { MeasuredPage } from './measured-page.js';
import type { Preparation } from './page-access.js';

/** What shows that a page is ready is waited for so long, ms. */
const mostMsToBeReady = 10_000;

/**
 * Waits until a page is ready, and clicks away what visitors click away.
 * @returns what was waited for in vain
 */
export async function preparePage(
  page: Pick<MeasuredPage, 'quiet' | 'call'>,
  { waitFor, click = [] }: Preparation,
): Promise<string[]> {
  await page.quiet('waiting for style sheets, scripts and fonts');
  const isReady = waitFor === undefined || (await page.call('appears', waitFor, mostMsToBeReady));
  for (const selector of click) {
    await page.call('clickOn', selector);
    await page.quiet('waiting after a click');
  }
  return isReady ? [] : [`nothing matched "${waitFor}" within ${mostMsToBeReady / 1000} s`];
}
