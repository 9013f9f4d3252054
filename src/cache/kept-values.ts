import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { deserialize, serialize } from 'node:v8';
import { deflateRaw, inflateRaw } from 'node:zlib';
import cacache from 'cacache';

const [pack, unpack] = [promisify(deflateRaw), promisify(inflateRaw)];

/** What values are kept under: measurements of pictures, visits and sweeps of pages, and the smaller things that those need. */
export const keptKinds = ['measured', 'visit', 'asked', 'known'] as const;
export type KeptKind = (typeof keptKinds)[number];

/** A name that tells what a value was made from from everything else. */
export function keyOf(kind: KeptKind, ...madeFrom: unknown[]): string {
  return `${kind}-${createHash('sha256').update(JSON.stringify(madeFrom)).digest('hex')}`;
}

/** What was made once is read so often that its age hardly matters; entries are marked as used this often, ms. */
const touchedEveryMs = 24 * 3600 * 1000;

/**
 * Values on disk by their key; several processes may share the folder. What is not whole, or cannot be written, is as if it were not
 * there: that costs time, never the result.
 */
export class KeptValues {
  /** Bytes written by this process. */
  written = 0;

  /** @param folder undefined keeps nothing */
  constructor(readonly folder: string | undefined) {}

  async get(key: string): Promise<unknown> {
    if (this.folder === undefined) return undefined;
    try {
      const entry = await cacache.get.info(this.folder, key);
      if (!entry) return undefined;
      const data = await cacache.get.byDigest(this.folder, entry.integrity);
      const value: unknown = deserialize(await unpack(data));
      if (Date.now() - entry.time > touchedEveryMs) await this.put(key, value);
      return value;
    } catch {
      // Not there, not whole, or not ours.
      return undefined;
    }
  }

  /**
   * Gives what is kept under a key, or makes it now and keeps it.
   * @param fits tells whether a kept value is of the right kind
   */
  async remember<Value>(
    key: string,
    fits: (value: unknown) => value is Value,
    make: () => Promise<Value>,
  ): Promise<Value> {
    const known = await this.get(key);
    if (fits(known)) return known;
    const value = await make();
    await this.put(key, value);
    return value;
  }

  /** @param value anything that can be cloned: maps, sets and numbers of every kind among it */
  async put(key: string, value: unknown): Promise<void> {
    if (this.folder === undefined) return;
    try {
      const data = await pack(serialize(value), { level: 3 });
      await cacache.put(this.folder, key, data);
      this.written += data.length;
    } catch {
      // No room, or not ours to write to.
    }
  }
}
