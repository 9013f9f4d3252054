import {
  candidateUrls,
  environmentOf,
  naturalSize,
  pickImage,
  type ParsedImage,
} from '../core/markup/index.js';
import { styleOptions } from '../core/plan/style-rule.js';
import { drawnSize } from '../core/layout/drawn-size.js';
import type { Download, ImageFile, ImageState, Placement, Screen, Shown, Slot } from '../core/run/index.js';
import { toDecimals } from '../core/wording/rounding.js';
import type { ObservedElement } from './observed-elements.js';
import { isLazy, laidOutDensity, offeredImage, parsedImage } from './offered-images.js';
import type { SiteUrls } from './site-urls.js';
import { unfinished } from './visit-summary.js';

/** What a placement's screens are read with. */
export interface ScreenContext {
  urls: SiteUrls;
  baseUrl: string;
  downloads: ReadonlyMap<string, Download>;
  fileOf(url: string): ImageFile | undefined;
}

/** Adds what one screen showed of a placement. */
export function addScreen(
  placement: Placement,
  element: ObservedElement,
  screen: Screen,
  observed: string | null,
  { urls, baseUrl, downloads, fileOf }: ScreenContext,
): void {
  const image = parsedImage(element);
  const predicted = image
    ? pickImage(image, environmentOf(screen), { autoWidth: element.slot?.width })?.url
    : undefined;
  const download = observed === null ? undefined : downloads.get(observed);
  const file = observed === null ? undefined : fileOf(observed);
  placement.slots[screen.name] = element.slot;
  placement.picks[screen.name] = {
    predicted: image ? (predicted === undefined ? null : urls.resolve(predicted, baseUrl)) : observed,
    observed,
  };
  if (download && download.status < 400 && download.failure === undefined) {
    const { url, bytes, began, scrollDepth } = download;
    placement.downloads[screen.name] = { url, bytes, began, scrollDepth };
  }
  const density = densityOf(element, observed, screen, { urls, baseUrl });
  placement.shown[screen.name] = shownOn(element, download, file, density);
  if (placement.candidates.length === 0) {
    const written = element.addresses ?? candidatesOf(offeredImage(element), observed);
    placement.candidates = written.map((url) => urls.resolve(url, baseUrl));
  }
}

function candidatesOf(image: ParsedImage | undefined, observed: string | null): string[] {
  if (image) return candidateUrls(image);
  return observed === null ? [] : [observed];
}

function shownOn(
  element: ObservedElement,
  download: Download | undefined,
  file: ImageFile | undefined,
  density: number,
): Shown {
  const { slot, fit, widthFrom, heightFrom, limitWidth, largestPaint } = element;
  const beforeScroll = oneOf(slot, element.beforeScroll);
  const whileWaiting = oneOf(beforeScroll, element.whileWaiting);
  const size = { width: file?.width ?? 0, height: file?.height ?? 0 };
  const drawn = slot ? drawnSize(slot, naturalSize(size, density), fit) : { width: 0, height: 0 };
  const shown: Shown = {
    state: stateOf(element, download, file),
    whileWaiting,
    beforeScroll,
    fit,
    widthFrom,
    heightFrom,
    limitWidth: limitWidth === null ? null : toDecimals(limitWidth, 2),
    drawnWidth: toDecimals(drawn.width, 2),
    drawnHeight: toDecimals(drawn.height, 2),
    fileWidth: size.width,
    fileHeight: size.height,
    seen: element.seen,
    concealed: element.concealed,
    seenLater: element.seenLater,
    pictureWrap: element.pictureWrap,
    behind: element.behind,
    waiting: element.waitingLook,
    largestPaint,
    lazy: isLazy(element),
  };
  if (element.limitHeight !== null) shown.limitHeight = toDecimals(element.limitHeight, 2);
  if (element.pixelated) shown.pixelated = true;
  if (element.followsFile) shown.followsFile = true;
  if (element.addressed) shown.addressed = true;
  if (element.widthElsewhere > 0) shown.widthElsewhere = element.widthElsewhere;
  if (element.shownByOther) shown.shownByOther = true;
  return shown;
}

/** The box itself, or the other where that is equal: most boxes never move, and there are thousands of them. */
function oneOf(other: Slot | null, box: Slot | null): Slot | null {
  const isSame =
    other?.x === box?.x &&
    other?.y === box?.y &&
    other?.width === box?.width &&
    other?.height === box?.height;
  return isSame ? other : box;
}

/** The density with which a file was laid out, by the markup or the style that names it; 1 where neither tells. */
function densityOf(
  element: ObservedElement,
  observed: string | null,
  screen: Screen,
  { urls, baseUrl }: Pick<ScreenContext, 'urls' | 'baseUrl'>,
): number {
  if (element.style) {
    const options = styleOptions(element.markup, { ...element.style, layer: 0 });
    return options.find(({ url }) => urls.resolve(url, baseUrl) === observed)?.density ?? 1;
  }
  const image = parsedImage(element);
  const pick = image && pickImage(image, environmentOf(screen), { autoWidth: element.slot?.width });
  return pick && urls.resolve(pick.url, baseUrl) === observed ? laidOutDensity(pick.density) : 1;
}

function stateOf(
  element: ObservedElement,
  download: Download | undefined,
  file: ImageFile | undefined,
): ImageState {
  if (download?.failure === unfinished) return 'not-loaded';
  if (element.currentSrc === '') return parsedImage(element) && element.complete ? 'no-source' : 'not-loaded';
  if (download && (download.status >= 400 || download.failure !== undefined)) return 'broken';
  if (element.kind !== 'img' && element.kind !== 'picture') return download ? 'drawn' : 'not-loaded';
  if (!element.complete) return 'not-loaded';
  // Vector pictures without a size of their own have no natural width and are drawn all the same.
  return element.naturalWidth > 0 || file?.format === 'svg' ? 'drawn' : 'broken';
}
