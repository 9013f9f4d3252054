import type { Price } from '../bytes/price-list.js';
import type { FileToMake } from '../run/types.js';

/**
 * Name for a version of a file at a width: `pictures/ridge.jpg` at 780 px is `pictures/ridge-780.jpg`. A width at the end of
 * the name is replaced: `ridge-4000w.jpg` is `ridge-780.jpg`, not `ridge-4000w-780.jpg`.
 */
export function nameAtWidth(url: string, width: number, extension?: string): string {
  const [path = '', query = ''] = url.split(/(?=[?#])/);
  const slash = path.lastIndexOf('/') + 1;
  const dot = path.lastIndexOf('.');
  const stem = (dot > slash ? path.slice(slash, dot) : path.slice(slash)).replace(/-\d{2,5}(?:w|px)?$/, '');
  const ending = extension ?? (dot > slash ? path.slice(dot + 1) : '');
  // A query tells apart files that share a path, so it must not vanish from the name.
  const mark = query ? `-${query.replace(/[^A-Za-z0-9]+/g, '')}` : '';
  return `${path.slice(0, slash)}${stem}${mark}-${width}${ending ? `.${ending}` : ''}`;
}

/** What a price says of a file to make. */
export function pricePart(price: Price | undefined): Pick<FileToMake, 'bytes' | 'quality' | 'error'> {
  return { bytes: price?.bytes ?? 0, quality: price?.quality ?? null, error: price?.error ?? 0 };
}

/** The same address with another extension: `a/ridge.jpg?v=2` as `avif` is `a/ridge.avif?v=2`. */
export function withExtension(url: string, extension: string): string {
  const [, path = '', rest = ''] = /^([^?#]*)(.*)$/s.exec(url) ?? [];
  return `${path.replace(/\.[A-Za-z0-9]{1,5}$/, '')}.${extension}${rest}`;
}
