import type { Measurement, ObservedPlacement, PendingImage, SeenShifts } from './in-page/protocol.js';
import type { MeasuredPage } from './measured-page.js';

/** What the page did when one image, or all images with one address, arrived. */
export interface ImageRelease extends SeenShifts {
  /** Null for the last release, of all images that keep their box. */
  url: string | null;
  /** Selectors of the images. */
  selectors: string[];
}

/** @param viewport by which media conditions and lengths count, CSS px */
export type PickOf = (
  element: ObservedPlacement,
  baseUrl: string,
  viewport: Measurement['layoutViewport'],
) => string | undefined;
export type SizeOf = (url: string) => Promise<{ width: number; height: number } | undefined>;

/** So many images are released one by one; on pages with more of them the rest goes together. */
const mostReleases = 60;
/** What has been transferred and does not show within so long is let be, ms; … */
const longestArrivalMs = 5000;
/** … after so many of those the rest is not waited for one by one. */
const mostStalled = 2;
/** Two ratios that differ by less are the same box. */
const sameRatio = 0.01;

/** What is known of images before they come. */
export interface ImageKnowledge {
  pickOf: PickOf;
  sizeOf: SizeOf;
}

/**
 * Releases the held images: those whose box will change one by one, in the order of the document, so that each shift belongs to one
 * image; then the others, and those that are too far below to move anything in view, together.
 * @param waiting the page as it waits for them
 */
export async function releaseImages(
  page: MeasuredPage,
  waiting: Measurement,
  known: ImageKnowledge,
): Promise<ImageRelease[]> {
  const pending = new Map((await page.call('pendingImages')).map((image) => [image.selector, image]));
  const groups = new Map<string, { selectors: string[]; changes: boolean }>();
  for (const element of waiting.placements) {
    const image = pending.get(element.selector);
    const url = image && known.pickOf(element, waiting.baseUrl, waiting.layoutViewport);
    if (!image || url === undefined || /^(data|blob):/.test(url)) continue;
    const group = groups.get(url) ?? { selectors: [], changes: false };
    group.selectors.push(element.selector);
    group.changes ||= await boxChanges(image, url, known.sizeOf);
    groups.set(url, group);
  }
  const changing = [...groups].filter(([, { changes }]) => changes);
  const releases: ImageRelease[] = [];
  await page.call('markPlaces');
  let stalled = 0;
  let released = 0;
  for (const [url, { selectors }] of changing) {
    if (stalled >= mostStalled || released >= mostReleases) break;
    // An address that is not held was not asked for yet, or another one was: its arrival cannot be waited for.
    if (!page.holds(url)) continue;
    if (await page.call('areFarBelow', selectors)) {
      releases.push({ url, selectors, moved: [], reported: 0, viewport: waiting.layoutViewport });
      continue;
    }
    released++;
    await page.releaseOnly(url);
    await page.transfersEnd('waiting for an image');
    if (!(await page.call('imagesArrive', selectors, url, longestArrivalMs))) stalled++;
    releases.push(await look(page, url, selectors));
  }
  await page.release();
  await page.quiet('waiting for the images of the first view');
  await page.call('paintsReported');
  releases.push(await look(page, null, []));
  return releases;
}

async function look(page: MeasuredPage, url: string | null, selectors: string[]): Promise<ImageRelease> {
  await page.quiet('waiting for the layout after an image');
  return { url, selectors, ...(await page.call('shiftsSinceMark')) };
}

/** Whether the box of an image depends on its file. */
async function boxChanges(
  { fixed, ratio, ownRatio }: PendingImage,
  url: string,
  sizeOf: SizeOf,
): Promise<boolean> {
  if (fixed || (ratio !== null && !ownRatio)) return false;
  const size = ratio === null ? undefined : await sizeOf(url);
  const own = size && size.height > 0 ? size.width / size.height : undefined;
  return ratio === null || own === undefined || Math.abs(own / ratio - 1) >= sameRatio;
}
