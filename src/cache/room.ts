import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import cacache from 'cacache';
import { keptKinds, type KeptKind } from './kept-values.js';

/** What a cache holds, by kind, and the bytes that its files take on disk. */
export interface CacheRoom {
  entries: Record<KeptKind, number>;
  bytes: number;
}

export async function cacheRoom(folder: string): Promise<CacheRoom> {
  const keys = Object.keys(await cacache.ls(folder).catch(() => ({})));
  const count = (kind: KeptKind) => keys.filter((key) => key.startsWith(`${kind}-`)).length;
  const entries = Object.fromEntries(keptKinds.map((kind) => [kind, count(kind)])) as CacheRoom['entries'];
  return { entries, bytes: await bytesOnDisk(folder) };
}

async function bytesOnDisk(folder: string): Promise<number> {
  const names = await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => []);
  let bytes = 0;
  for (const entry of names)
    if (entry.isFile())
      bytes += (await stat(join(entry.parentPath, entry.name)).catch(() => undefined))?.size ?? 0;
  return bytes;
}

/** The line of the index that names a value. */
const perEntryBytes = 600;

/**
 * Removes what has not been used for longest until what is kept takes no more than a limit.
 * @param limitBytes of the values, and of the index that names them
 * @returns how many entries went
 */
export async function pruneCache(folder: string, limitBytes: number): Promise<number> {
  const entries = Object.values(await cacache.ls(folder).catch(() => ({}))).sort((a, b) => b.time - a.time);
  let kept = 0;
  let went = 0;
  for (const { key, size } of entries) {
    kept += size + perEntryBytes;
    if (kept <= limitBytes) continue;
    await cacache.rm.entry(folder, key);
    went++;
  }
  // Contents that no entry names any more take room too: of what was written anew, and of what went.
  if (went > 0 || (await bytesOnDisk(folder)) > limitBytes)
    await cacache.verify(folder).catch(() => undefined);
  return went;
}

export async function clearCache(folder: string): Promise<void> {
  await cacache.rm.all(folder);
}
