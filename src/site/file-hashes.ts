import { createHash } from 'node:crypto';
import { readFile, stat } from 'node:fs/promises';

/** When and how large a file was as it was hashed. */
export interface HashedFile {
  size: number;
  /** Times as the file system tells them, ms. */
  modified: number;
  changed: number;
  /** Number of its inode: a file that was put in its place has another. */
  inode: number;
  /** SHA-256, hexadecimal. */
  hash: string;
}

/** File systems note times by a clock that ticks so slowly, ms: what was written within a tick may look unchanged. */
export const clockTickMs = 20;

/** Hashes of files, each read again only when its size, its times or its place have changed. */
export class FileHashes {
  readonly #known = new Map<string, HashedFile>();
  readonly #reading = new Map<string, Promise<HashedFile | undefined>>();

  /** @param files what was known at an earlier time, by path */
  trust(files: ReadonlyMap<string, HashedFile>): void {
    for (const [path, file] of files) this.#known.set(path, file);
  }

  /** The hash of a file as it was when it was first asked for; undefined where it cannot be read. */
  hashOf(path: string): Promise<HashedFile | undefined> {
    const reading = this.#reading.get(path) ?? this.hashNow(path);
    this.#reading.set(path, reading);
    return reading;
  }

  /** The hash of a file as it is now. */
  async hashNow(path: string): Promise<HashedFile | undefined> {
    try {
      const { size, mtimeMs: modified, ctimeMs: changed, ino: inode } = await stat(path);
      const known = this.#known.get(path);
      if (known && known.size === size && known.modified === modified)
        if (known.changed === changed && known.inode === inode) return known;
      const hash = createHash('sha256')
        .update(await readFile(path))
        .digest('hex');
      const file = { size, modified, changed, inode, hash };
      // One that was written just now may be written once more without a sign of it.
      if (Math.max(modified, changed) + clockTickMs < Date.now()) this.#known.set(path, file);
      return file;
    } catch {
      return undefined;
    }
  }

  /** What may be trusted at a later time. */
  get known(): ReadonlyMap<string, HashedFile> {
    return this.#known;
  }
}
