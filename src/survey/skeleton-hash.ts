import { createHash } from 'node:crypto';
import { skeletonOf } from '../core/templates/skeleton.js';
import type { ParsedPage } from '../site/index.js';
import type { SiteUrls } from './site-urls.js';

/**
 * Tells pages of one skeleton from others.
 * @param baseUrl what relative addresses of the page are resolved against: an absolute URL
 */
export function skeletonHash({ document }: ParsedPage, urls: SiteUrls, baseUrl: string): string {
  const skeleton = skeletonOf(document, (address) => urls.resolve(address, baseUrl));
  return createHash('sha256').update(skeleton).digest('hex');
}
