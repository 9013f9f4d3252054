import {
  candidateUrls,
  dimensionsFor,
  environmentOf,
  naturalSize,
  pickImage,
} from '../../core/markup/index.js';
import type { ImageFile, Screen } from '../../core/run/index.js';
import type { SizedImage } from '../../core/templates/box-rules.js';
import type { OutlinedImage } from '../../core/templates/outline.js';
import { isFor, laidOutDensity, offeredImage } from '../offered-images.js';
import type { SiteUrls } from '../site-urls.js';
import type { PageFile } from './page-file.js';

/** What an element of a page's file takes on a screen, by its markup. */
export interface ElementPick {
  /** From the site's root; null where it names none. */
  url: string | null;
  density: number;
  stated: SizedImage['stated'];
}

const none: ElementPick = { url: null, density: 1, stated: undefined };

/** @param autoWidth of its slot, for `sizes=auto`, CSS px */
export function pickIn(
  image: OutlinedImage,
  {
    screen,
    baseUrl,
    urls,
    autoWidth,
  }: { screen: Screen; baseUrl: string; urls: SiteUrls; autoWidth?: number },
): ElementPick {
  const value = (...names: readonly string[]) => image.attributes.find(([name]) => names.includes(name))?.[1];
  const plain = (written: string | undefined): ElementPick =>
    written === undefined || written === '' ? none : { ...none, url: urls.resolve(written, baseUrl) };
  if (image.kind === 'icon-link') return plain(value('href'));
  if (image.kind === 'video-poster') return plain(value('poster'));
  if (image.kind === 'preload' && !isFor(image, screen)) return none;
  const parsed = offeredImage(image);
  if (!parsed) return plain(value('src', 'data', 'href', 'xlink:href'));
  const picked = pickImage(parsed, environmentOf(screen), { autoWidth });
  if (!picked) return none;
  return {
    url: urls.resolve(picked.url, baseUrl),
    density: laidOutDensity(picked.density),
    stated: dimensionsFor(parsed, picked),
  };
}

/** Every address that the images of a page name, whichever is taken. */
export function addressesOf({ outline, baseUrl }: PageFile, urls: SiteUrls): string[] {
  const written = outline.images.flatMap((image) => {
    const parsed = offeredImage(image);
    return parsed
      ? candidateUrls(parsed)
      : image.attributes.flatMap(([name, value]) =>
          /^(src|data|href|xlink:href|poster)$/.test(name) ? value : [],
        );
  });
  return [...new Set(written.map((url) => urls.resolve(url, baseUrl)))];
}

/** What decides about its box. */
export function sizedBy({ density, stated }: ElementPick, file: ImageFile | undefined): SizedImage {
  return { stated, natural: file && file.width > 0 ? naturalSize(file, density) : undefined };
}
