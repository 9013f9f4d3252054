import type { PendingImage } from './protocol.js';
import { parseSrcset } from '../../core/markup/srcset.js';
import { native, nativeDocument } from './native.js';
import { nextFrame } from './next-frame.js';
import { deepQuery, findElement, parentOf, uniqueSelector } from './selector.js';
import { withinMs } from './within.js';

/** Images that wait for their file, and how much of their box is known without it. */
export function pendingImages(): PendingImage[] {
  return deepQuery('img')
    .filter((element) => element instanceof HTMLImageElement)
    .filter((image) => !image.complete && image.getClientRects().length > 0)
    .map((image) => {
      const map = image.computedStyleMap();
      const auto = (name: string) => map.get(name)?.toString() === 'auto';
      const ratio = /(\d*\.?\d+) \/ (\d*\.?\d+)/.exec(getComputedStyle(image).aspectRatio);
      return {
        selector: uniqueSelector(image),
        fixed: !auto('width') && !auto('height'),
        ratio: ratio ? Number(ratio[1]) / Number(ratio[2]) : null,
        ownRatio: getComputedStyle(image).aspectRatio.startsWith('auto') && ratio !== null,
      };
    });
}

/**
 * Waits until the images that show one address have arrived or failed, but no longer than so many ms. Lazy ones are asked for when the
 * browser sees fit: of those alone the first is enough.
 * @returns whether they did
 */
export async function imagesArrive(
  selectors: readonly string[],
  url: string,
  limitMs: number,
): Promise<boolean> {
  const bare = (address: string) => address.replace(/#.*$/s, '');
  const images = selectors
    .map(findElement)
    .filter((element) => element instanceof HTMLImageElement)
    .filter(({ currentSrc }) => bare(currentSrc) === bare(url));
  if (images.length === 0) return true;
  const eager = images.filter(({ loading }) => loading !== 'lazy');
  const all = Promise.resolve<unknown>(
    eager.length > 0 ? Promise.all(eager.map(arrives)) : Promise.race(images.map(arrives)),
  );
  return (await withinMs(limitMs, all)) !== undefined;
}

async function arrives(image: HTMLImageElement): Promise<true> {
  if (!image.complete)
    await new Promise<void>((resolve) => {
      image.addEventListener('load', () => resolve(), { once: true });
      image.addEventListener('error', () => resolve(), { once: true });
    });
  await image.decode().catch(() => undefined);
  return true;
}

/** So many frames a script has for what came into view or near it, … */
const framesForScripts = 30;
/** … and once for each image in view: what it leaves alone then it has no business with; … */
const givenTime = new WeakSet<Element>();
/** … and once for each that lies below, since scripts load ahead when they have nothing else to do: some sooner, some later. */
const givenTimeBelow = new WeakSet<Element>();
/** So far below the window and farther scripts of this page were seen to leave images alone, CSS px. */
let leftAlone = Infinity;

/** Whether scripts of this page were seen to leave what images show already as it is: then they name other files for another purpose. */
let standsIn = true;

/** Whether an image shows none of the files so far that it names in attributes for scripts: nothing, or what stands in until then. */
function awaitsScript(image: HTMLImageElement): boolean {
  if (image.naturalWidth > 0 && !standsIn) return false;
  const around = parentOf(image);
  const inPicture = around !== null && native(around).localName === 'picture';
  const parts = inPicture ? [...native(around).children] : [image];
  const named = parts.flatMap(({ attributes }) =>
    [...attributes].filter(({ name }) => forScripts.test(name)),
  );
  if (named.length === 0) return false;
  return image.naturalWidth === 0 || !named.some((attribute) => namesFile(attribute, image.currentSrc));
}

/** Whether an attribute names a file, by itself or in a list. */
function namesFile({ name, value }: Attr, url: string): boolean {
  const addresses = name.endsWith('srcset')
    ? parseSrcset(value).candidates.map((candidate) => candidate.url)
    : [value.trim()];
  return addresses.some(
    (address) =>
      URL.canParse(address, nativeDocument.baseURI) && new URL(address, nativeDocument.baseURI).href === url,
  );
}

/** How far an image lies below the window, CSS px; undefined of one that lies beside or above it, or has no box. */
function distanceBelow(image: HTMLImageElement): number | undefined {
  const { top, bottom, left, right } = image.getBoundingClientRect();
  const isBeside = right <= 0 || left >= innerWidth || bottom <= 0;
  return isBeside || image.getClientRects().length === 0 ? undefined : Math.max(0, top - innerHeight);
}

const forScripts = /^data-([\w-]+-)?(src|srcset|original)$/;

/**
 * Gives scripts time for the images that came into view or near it: they are told of them with a frame or a timer, and until then ask for nothing.
 * @returns whether there were any
 */
export async function scriptsComplete(): Promise<boolean> {
  const near = Math.min(innerHeight, leftAlone);
  const awaited = deepQuery('img').flatMap((image) => {
    if (!(image instanceof HTMLImageElement) || givenTime.has(image)) return [];
    const distance = distanceBelow(image);
    const isMeant =
      distance === 0 || (distance !== undefined && distance < near && !givenTimeBelow.has(image));
    return isMeant && awaitsScript(image) ? [{ image, distance }] : [];
  });
  if (awaited.length === 0) return false;
  const isAwaited = ({ image }: { image: HTMLImageElement }) => awaitsScript(image);
  const standing = awaited.filter(({ image, distance }) => distance === 0 && image.naturalWidth > 0);
  for (let count = 0; count < framesForScripts && awaited.some(isAwaited); count++) await nextFrame();
  for (const { image, distance } of awaited) {
    (distance === 0 ? givenTime : givenTimeBelow).add(image);
    if (distance > 0 && awaitsScript(image)) leftAlone = Math.min(leftAlone, distance);
  }
  if (standing.length > 0 && standing.every(isAwaited)) standsIn = false;
  return true;
}

/** Whether an image that has a box waits for being scrolled near, or for a script. */
export const imagesWait = (): boolean =>
  deepQuery('img').some(
    (image) =>
      image instanceof HTMLImageElement &&
      image.getClientRects().length > 0 &&
      ((image.loading === 'lazy' && !image.complete) || awaitsScript(image)),
  );
