import { createHash } from 'node:crypto';
import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import cacache from 'cacache';
import { encoderVersions } from './versions.js';

/** Changes whenever the way of measuring changes, so that no older result is taken for a new one. */
const method = 6;

/** What was measured of image files, kept on disk by content, recipe and encoder versions. Several processes may share it. */
export class MeasuredCache {
  hits = 0;
  misses = 0;

  /**
   * @param folder undefined for a cache that keeps nothing
   * @param versions of the encoders: others give other bytes
   */
  constructor(
    readonly folder: string | undefined,
    readonly versions = encoderVersions(),
  ) {}

  /**
   * Gives what was measured before, or measures it now and keeps it. A damaged entry, or one that does not fit, is measured anew; a
   * cache that cannot be written costs time, never the result.
   * @param fits tells whether a kept value is of the right kind
   */
  async remember<Value>(
    hash: string,
    recipe: unknown,
    fits: (value: unknown) => value is Value,
    measure: () => Promise<Value>,
  ): Promise<Value> {
    const key = keyOf(this.versions, hash, recipe);
    const kept = await this.#read(key);
    if (kept !== undefined && fits(kept)) {
      this.hits++;
      return kept;
    }
    this.misses++;
    const value = await measure();
    if (this.folder !== undefined)
      await cacache.put(this.folder, key, JSON.stringify(value)).catch(() => undefined);
    return value;
  }

  async #read(key: string): Promise<unknown> {
    if (this.folder === undefined) return undefined;
    try {
      const { data } = await cacache.get(this.folder, key);
      return JSON.parse(data.toString('utf8')) as unknown;
    } catch {
      // Not there, not whole, or not ours.
      return undefined;
    }
  }
}

function keyOf(versions: string, hash: string, recipe: unknown): string {
  const text = JSON.stringify([method, versions, hash, recipe]);
  return `measured-${createHash('sha256').update(text).digest('hex')}`;
}

/** Entries of a cache and the bytes that its files take on disk. */
export async function cacheSize(folder: string): Promise<{ entries: number; bytes: number }> {
  const entries = Object.keys(await cacache.ls(folder).catch(() => ({}))).length;
  const names = await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => []);
  let bytes = 0;
  for (const entry of names)
    if (entry.isFile())
      bytes += (await stat(join(entry.parentPath, entry.name)).catch(() => undefined))?.size ?? 0;
  return { entries, bytes };
}

export async function clearCache(folder: string): Promise<void> {
  await cacache.rm.all(folder);
}
