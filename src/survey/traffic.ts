import type { Run } from '../core/run/index.js';
import type { Page, Site } from '../site/index.js';

type Traffic = ReadonlyMap<string, number>;

/**
 * The page that a visited path shows: the one that is audited under it, else the one of the same file; statistics write `/huts` for `/huts/`,
 * and `/people` for `/people.html`.
 */
function pageOf(site: Site, path: string): Page | undefined {
  const bare = (text: string) => text.replace(/\/$/, '');
  const named = site.pages.find((page) => bare(page.path) === bare(path));
  if (named) return named;
  const file = site.fileAt(path) ?? site.fileAt(`${path}/`);
  return site.pages.find((page) => page.file === file);
}

/** Whether the site has anything under a path, audited or not. */
const isKnown = (site: Site, path: string) =>
  (pageOf(site, path) ?? site.fileAt(path) ?? site.fileAt(`${path}/`)) !== undefined;

/** Each page's share of visits, by path: as far as the user knows it, else all alike. */
export function pageWeights(site: Site, traffic: Traffic | undefined): Map<string, number> {
  const visits = new Map<string, number>();
  for (const [path, count] of traffic ?? []) {
    const page = pageOf(site, path);
    if (page) visits.set(page.path, (visits.get(page.path) ?? 0) + count);
  }
  const total = [...visits.values()].reduce((sum, count) => sum + count, 0);
  return new Map(
    site.pages.map(({ path }) => [path, total > 0 ? (visits.get(path) ?? 0) / total : 1 / site.pages.length]),
  );
}

/** Paths that were visited but that the site does not have, those with the most visits first. */
export function strangeTraffic(site: Site, traffic: Traffic | undefined): Run['strangeTraffic'] {
  return [...(traffic ?? [])]
    .filter(([path]) => !isKnown(site, path))
    .map(([path, visits]) => ({ path, visits }))
    .sort((a, b) => b.visits - a.visits || (a.path < b.path ? -1 : 1));
}
