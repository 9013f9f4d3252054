import type { Site } from './site.js';

/** A site of which only some pages are looked at. */
export const withPages = (site: Site, paths: ReadonlySet<string>): Site => ({
  ...site,
  // More may become known while it is looked at.
  get names() {
    return site.names;
  },
  pages: site.pages.filter(({ path }) => paths.has(path)),
});
