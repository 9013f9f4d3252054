import type { RefusedRequest } from '../core/run/index.js';

/**
 * Counts the requests to other hosts that were refused, by host.
 * @param unlisted addresses that workers, sockets and the like asked for: nobody can say for which page
 */
export function countRefused(
  pages: readonly { page: string; urls: readonly string[] }[],
  unlisted: readonly string[] = [],
): RefusedRequest[] {
  const hosts = new Map<string, { requests: number; pages: Set<string> }>();
  for (const { page, urls } of pages) {
    for (const url of urls) {
      const host = hostOf(url);
      const entry = hosts.get(host) ?? { requests: 0, pages: new Set<string>() };
      entry.requests++;
      entry.pages.add(page);
      hosts.set(host, entry);
    }
  }
  for (const host of new Set(unlisted.map(hostOf)))
    if (!hosts.has(host)) hosts.set(host, { requests: 0, pages: new Set() });
  return [...hosts]
    .map(([host, entry]) => ({ host, requests: entry.requests, pages: [...entry.pages].sort() }))
    .sort((a, b) => (a.host < b.host ? -1 : 1));
}

function hostOf(url: string): string {
  try {
    return new URL(url).host || url.slice(0, url.indexOf(':') + 1);
  } catch {
    return url;
  }
}
