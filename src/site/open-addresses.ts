import type { LiveOptions } from './live/open-live.js';
import type { Site } from './site.js';

/**
 * Opens a site at addresses of one origin, and finds its pages. What speaks HTTP is read only then.
 * @throws {SiteError} when it does not answer, or has no page
 */
export async function openAddresses(targets: readonly string[], options: LiveOptions): Promise<Site> {
  const { openLive } = await import('./live/open-live.js');
  return openLive(targets, options);
}
