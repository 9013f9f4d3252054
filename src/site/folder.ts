import { readFile } from 'node:fs/promises';
import { basename, resolve } from 'node:path';
import { SiteAnswers, type ServedFolder } from './answers.js';
import { SiteError } from './errors.js';
import { FileHashes } from './file-hashes.js';
import { readHeaderFile } from './header-file.js';
import { listFolder, type FolderFiles } from './folder-files.js';
import { encodePath, pagesOf, resolvePath, type Page } from './paths.js';
import { isRoute } from './paths.js';
import { serveFolder, typeOfFile } from './server.js';
import type { ServerAnswer } from './server-answer.js';
import type { Site } from './site.js';

export interface FolderOptions {
  /** Path below which the site lies on its host, beginning and ending in "/". */
  basePath?: string;
  /** Pages to audit, as URL paths or files; all HTML files if left out. */
  pages?: readonly string[];
  /** File that the host sends for paths without a file of their own, as single-page sites need it. */
  fallback?: string;
  /** Whether pages may ask hosts of the open network; what those answer is then measured like the site's own. */
  otherHosts?: boolean;
  /** Hosts that pages may ask, wherever they are. */
  hosts?: readonly string[];
  /** File that tells what headers the host sends with which paths. */
  headers?: string;
  /** Told to other hosts. */
  toolVersion?: string;
}

/**
 * Serves a folder on loopback and finds its pages.
 * @throws {SiteError} when the folder does not exist, holds no HTML, or a named page is not there
 */
export async function openFolder(folder: string, options: FolderOptions = {}): Promise<Site> {
  const basePath = normaliseBasePath(options.basePath ?? '/');
  const { files, aliases, problems } = await listFolder(folder);
  const all = pagesOf(files, basePath).filter(({ file }) => !aliases.has(file));
  if (all.length === 0) {
    throw new SiteError(
      'NO_PAGES',
      `The folder "${folder}" holds no HTML file (looked at ${files.size} files). Build the site first, then give the folder of the build.`,
    );
  }
  const { fallback, otherHosts = false, hosts = [], toolVersion = '' } = options;
  if (fallback !== undefined && !files.has(fallback))
    throw new SiteError(
      'NO_SUCH_PAGE',
      `The fallback "${fallback}" is not in the folder "${folder}". Give its path from there, such as index.html.`,
    );
  const pages = options.pages?.length ? choosePages(options.pages, all, files, basePath, fallback) : all;
  const served: ServedFolder = { files, basePath, fallback };
  const told = options.headers === undefined ? undefined : await readHeaderFile(options.headers);
  const server = await serveFolder(served);
  const hashes = new FileHashes();
  const others =
    otherHosts || hosts.length > 0
      ? await (
          await import('./live/other-hosts.js')
        ).openOtherHosts(server.origin, { otherHosts, hosts, toolVersion })
      : undefined;
  const fileAt = (path: string): string | undefined => {
    try {
      const found = resolvePath(path.replace(/[?#].*$/, ''), files, basePath);
      return found.kind === 'file' ? found.file : undefined;
    } catch {
      return undefined;
    }
  };
  const answerTo = async (path: string): Promise<ServerAnswer | undefined> => {
    const file = path.startsWith('/') ? fileAt(path) : undefined;
    if (file === undefined) return others?.answerTo(path);
    return told?.answerWith(path.replace(/[?#].*$/s, ''), files.get(file) ?? file, typeOfFile(file));
  };
  return {
    kind: 'folder',
    name: basename(resolve(folder)),
    basePath,
    origin: server.origin,
    pages,
    problems,
    names: [...files.keys()].map((file) => basePath + encodePath(file)),
    ask: (addresses) => others?.ask(addresses) ?? Promise.resolve(),
    fileAt: (path) => (path.startsWith('/') ? fileAt(path) : others?.fileAt(path)),
    typeOf: (path) => typeOfFile(fileAt(path) ?? path),
    read: (file) => others?.read(file) ?? readFile(files.get(file) ?? file),
    hashOf: async (file) => others?.hashOf(file) ?? (await hashes.hashOf(files.get(file) ?? file))?.hash,
    answers: new SiteAnswers(served, hashes),
    root: resolve(folder),
    ...(others ? { network: others.network, differsFor: others.differsFor } : {}),
    ...(others || told ? { answerTo } : {}),
    close: async () => {
      await server.close();
      await others?.close();
    },
  };
}

function normaliseBasePath(path: string): string {
  return `/${path}/`.replace(/\/{2,}/g, '/');
}

function choosePages(
  wanted: readonly string[],
  all: readonly Page[],
  files: FolderFiles,
  basePath: string,
  fallback: string | undefined,
): Page[] {
  const chosen = new Map<string, Page>();
  for (const name of wanted) {
    const page = all.find(({ path, file }) => path === name || file === name || `/${file}` === name);
    const clean = page ?? byPath(name, all, files, basePath) ?? fallbackPage(name, basePath, fallback);
    if (!clean) {
      const known = all.slice(0, 8).map(({ path }) => path);
      throw new SiteError(
        'NO_SUCH_PAGE',
        `The site has no page "${name}". Its pages: ${known.join(', ')}${all.length > 8 ? `, and ${all.length - 8} more` : ''}.`,
      );
    }
    chosen.set(clean.path, clean);
  }
  return [...chosen.values()].sort((a, b) => (a.path < b.path ? -1 : 1));
}

/** A path that only the scripts of a single-page site know. */
function fallbackPage(name: string, basePath: string, fallback: string | undefined): Page | undefined {
  if (fallback === undefined || !isRoute(name)) return undefined;
  const { pathname } = new URL(name.startsWith('/') ? name : basePath + name, 'http://site.invalid');
  return pathname.startsWith(basePath) ? { path: pathname, file: fallback } : undefined;
}

function byPath(name: string, all: readonly Page[], files: FolderFiles, basePath: string): Page | undefined {
  const path = name.startsWith('/') ? name : basePath + name;
  try {
    const encoded = new URL(path, 'http://site.invalid').pathname;
    for (const candidate of [encoded, `${encoded}/`]) {
      const found = resolvePath(candidate, files, basePath);
      if (found.kind === 'file') return all.find(({ file }) => file === found.file);
    }
  } catch {
    return undefined;
  }
  return undefined;
}
