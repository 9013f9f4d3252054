import type { MovedThing, PendingImage } from './in-page/protocol.js';
import type { MeasuredPage } from './measured-page.js';

/** What the page did when one image, or all images with one address, arrived. */
export interface ImageRelease {
  /** Null for the last release, of all images that keep their box. */
  url: string | null;
  /** Selectors of the images. */
  selectors: string[];
  /** Sum of the layout-shift values that the browser reported. */
  reported: number;
  moved: MovedThing[];
  viewport: { width: number; height: number };
}

export type SizeOf = (url: string) => Promise<{ width: number; height: number } | undefined>;

/** So many images are released one by one; on pages with more of them the rest goes together. */
const mostReleases = 60;
/** Two ratios that differ by less are the same box. */
const sameRatio = 0.01;

/**
 * Releases the held images: those whose box will change one by one, in the order of the document, so that each shift belongs to one
 * image; then the others together.
 */
export async function releaseImages(page: MeasuredPage, sizeOf: SizeOf): Promise<ImageRelease[]> {
  const pending = await page.call('pendingImages');
  const changing = await addressesThatChange(pending, sizeOf);
  const releases: ImageRelease[] = [];
  await page.call('markPlaces');
  for (const url of changing.slice(0, mostReleases)) {
    await page.releaseOnly(url);
    await page.call('imagesArrive', url);
    const selectors = pending.filter((image) => image.url === url).map(({ selector }) => selector);
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
  const { moved, reported, viewport } = await page.call('shiftsSinceMark');
  await page.call('markPlaces');
  return { url, selectors, reported, moved, viewport };
}

/** Addresses of images whose box depends on the file. */
async function addressesThatChange(pending: readonly PendingImage[], sizeOf: SizeOf): Promise<string[]> {
  const urls = new Set<string>();
  for (const { url, fixed, ratio, ownRatio } of pending) {
    if (fixed || urls.has(url) || /^(data|blob):/.test(url)) continue;
    if (ratio !== null && !ownRatio) continue;
    const size = ratio === null ? undefined : await sizeOf(url);
    const own = size && size.height > 0 ? size.width / size.height : undefined;
    if (ratio !== null && own !== undefined && Math.abs(own / ratio - 1) < sameRatio) continue;
    urls.add(url);
  }
  return [...urls];
}
