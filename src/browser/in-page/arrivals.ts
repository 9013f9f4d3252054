import type { PendingImage } from './protocol.js';
import { deepQuery, findElement, uniqueSelector } from './selector.js';
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
