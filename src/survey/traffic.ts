import type { Run } from '../core/run/index.js';
import type { Site } from '../site/index.js';

type Traffic = ReadonlyMap<string, number>;

/** The file that a visited path shows; statistics write `/huts` for `/huts/`, and `/people` for `/people.html`. */
const fileOf = (site: Site, path: string) => site.fileAt(path) ?? site.fileAt(`${path}/`);

/** Each page's share of visits, by path: as far as the user knows it, else all alike. */
export function pageWeights(site: Site, traffic: Traffic | undefined): Map<string, number> {
  const visits = new Map<string, number>();
  for (const [path, count] of traffic ?? []) {
    const file = fileOf(site, path);
    if (file !== undefined) visits.set(file, (visits.get(file) ?? 0) + count);
  }
  const total = site.pages.reduce((sum, { file }) => sum + (visits.get(file) ?? 0), 0);
  return new Map(
    site.pages.map(({ path, file }) => [
      path,
      total > 0 ? (visits.get(file) ?? 0) / total : 1 / site.pages.length,
    ]),
  );
}

/** Paths that were visited but that the site does not have, those with the most visits first. */
export function strangeTraffic(site: Site, traffic: Traffic | undefined): Run['strangeTraffic'] {
  return [...(traffic ?? [])]
    .filter(([path]) => fileOf(site, path) === undefined)
    .map(([path, visits]) => ({ path, visits }))
    .sort((a, b) => b.visits - a.visits || (a.path < b.path ? -1 : 1));
}
