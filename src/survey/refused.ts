import type { RefusedRequest } from '../core/run/index.js';

/** What was refused to a page. */
export interface RefusedToPage {
  page: string;
  urls: readonly string[];
  /** Hosts that its workers, sockets and the like asked: how often, nobody can say. */
  unlisted: readonly string[];
}

/** Counts the requests to other hosts that were refused, by host. */
export function countRefused(pages: readonly RefusedToPage[]): RefusedRequest[] {
  const hosts = new Map<string, { requests: number; pages: Set<string> }>();
  const note = (host: string, page: string, requests: number) => {
    const entry = hosts.get(host) ?? { requests: 0, pages: new Set<string>() };
    entry.requests += requests;
    entry.pages.add(page);
    hosts.set(host, entry);
  };
  for (const { page, urls, unlisted } of pages) {
    for (const url of urls) note(hostOf(url), page, 1);
    for (const host of unlisted) note(hostOf(`http://${host}/`), page, 0);
  }
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
