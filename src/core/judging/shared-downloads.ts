import type { Placement } from '../run/types.js';

/** Placements of one page that show the same download on one screen, in document order. */
export interface SharedDownload {
  page: string;
  screen: string;
  url: string;
  bytes: number;
  placements: Placement[];
}

/** Groups placements by the download that they share, because its bytes can be saved only once. */
export function sharedDownloads(placements: readonly Placement[]): SharedDownload[] {
  const groups = new Map<string, SharedDownload>();
  for (const placement of placements) {
    // A preload fetches early what another placement shows; by itself it shows nothing.
    if (placement.kind === 'preload') continue;
    for (const [screen, { url, bytes }] of Object.entries(placement.downloads)) {
      const key = JSON.stringify([placement.page, screen, url]);
      const group = groups.get(key);
      if (group) group.placements.push(placement);
      else groups.set(key, { page: placement.page, screen, url, bytes, placements: [placement] });
    }
  }
  return [...groups.values()];
}
