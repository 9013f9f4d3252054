import { clockTickMs, type FileHashes } from './file-hashes.js';
import type { FolderFiles } from './folder-files.js';
import { isRoute, resolvePath, type Resolved } from './paths.js';

/** How a folder is served. */
export interface ServedFolder {
  files: FolderFiles;
  basePath: string;
  /** File that is sent for paths of pages that are not there. */
  fallback?: string | undefined;
}

/**
 * What a folder's server sends for a URL path, without its query.
 * @throws {URIError} when the percent-encoding is malformed
 */
export function resolveServed(path: string, { files, basePath, fallback }: ServedFolder): Resolved {
  const found = resolvePath(path, files, basePath);
  return found.kind === 'missing' && fallback !== undefined && isRoute(path)
    ? { kind: 'file', file: fallback }
    : found;
}

/** Tells whether a site would answer as it did before, without asking its server. */
export class SiteAnswers {
  constructor(
    readonly folder: ServedFolder,
    readonly hashes: FileHashes,
  ) {}

  /** A text that is the same as long as the answer to an address is: an address from the site's root, its query with it. */
  async to(address: string): Promise<string> {
    const { told, path } = this.#resolve(address);
    if (path === undefined) return told;
    return `${told} ${(await this.hashes.hashOf(path))?.hash ?? 'unreadable'}`;
  }

  /**
   * The same, of an answer that was given at some time.
   * @param since `Date.now()` before the first of the answers
   * @returns undefined if what answers has changed since, so that nobody knows what was sent
   */
  async given(address: string, since: number): Promise<string | undefined> {
    const { told, path } = this.#resolve(address);
    if (path === undefined) return told;
    const file = await this.hashes.hashNow(path);
    if (!file || Math.max(file.changed, file.modified) + clockTickMs >= since) return undefined;
    return `${told} ${file.hash}`;
  }

  #resolve(address: string): { told: string; path: string | undefined } {
    const [, pathname = '/', search = ''] = /^([^?#]*)(\?[^#]*)?/.exec(address) ?? [];
    try {
      const found = resolveServed(pathname, this.folder);
      if (found.kind === 'redirect') return { told: `redirect ${found.to}${search}`, path: undefined };
      const file = found.kind === 'missing' ? '404.html' : found.file;
      // The type that is sent with it depends on the name.
      return { told: `${found.kind} ${file}`, path: this.folder.files.get(file) };
    } catch {
      return { told: 'malformed', path: undefined };
    }
  }
}
