import type { FolderFiles } from './folder-files.js';

export interface Page {
  /** URL path from the site's root, percent-encoded. */
  path: string;
  /** File from the site's root. */
  file: string;
}

/** A file's path as it stands in a URL. */
export const encodePath = (file: string) => file.split('/').map(encodeURIComponent).join('/');

/** The URL path at which a host serves a file: `a b/index.html` is at `/a%20b/`. */
export function pathOfFile(file: string, basePath: string): string {
  return basePath + encodePath(file.replace(/(^|\/)index\.html?$/i, '$1'));
}

export type Resolved =
  { kind: 'file'; file: string } | { kind: 'redirect'; to: string } | { kind: 'missing' };

/**
 * The file that a static host sends for a URL path: the file itself, `index.html` of a folder (after a redirect to
 * the path with a slash), or the page without its `.html`.
 * @throws {URIError} when the percent-encoding is malformed
 */
export function resolvePath(path: string, files: FolderFiles, basePath: string): Resolved {
  if (!path.startsWith(basePath)) {
    return `${path}/` === basePath ? { kind: 'redirect', to: basePath } : { kind: 'missing' };
  }
  const name = path.slice(basePath.length).split('/').map(decodeURIComponent).join('/');
  if (files.has(name)) return { kind: 'file', file: name };
  if (name === '' || name.endsWith('/')) {
    for (const index of ['index.html', 'index.htm'])
      if (files.has(name + index)) return { kind: 'file', file: name + index };
    return { kind: 'missing' };
  }
  if (files.has(`${name}.html`)) return { kind: 'file', file: `${name}.html` };
  if (files.has(`${name}/index.html`)) return { kind: 'redirect', to: `${path}/` };
  return { kind: 'missing' };
}

/** Whether a path is one of a page and not of a file: its last part has no extension. */
export const isRoute = (path: string) => !/\.[^/]*$/.test(path);

/** Hosts send what stands in folders whose names begin with a dot, but nobody is led to a page there. */
const isHidden = (file: string) => /(?:^|\/)\.(?!well-known\/)[^/]*\//.test(file);

/** All HTML files as pages, sorted by path. */
export function pagesOf(files: FolderFiles, basePath: string): Page[] {
  return [...files.keys()]
    .filter((file) => /\.html?$/i.test(file) && !isHidden(file))
    .map((file) => ({ file, path: pathOfFile(file, basePath) }))
    .sort((a, b) => (a.path < b.path ? -1 : a.path > b.path ? 1 : 0));
}
