import { readdir, realpath, stat } from 'node:fs/promises';
import { join, relative, sep } from 'node:path';
import { SiteError } from './errors.js';

/** The files of a folder by their path from its root, with "/" between segments. */
export type FolderFiles = ReadonlyMap<string, string>;

/**
 * Lists every file below a folder, links followed only where they stay inside it. Hidden folders are left out,
 * except `.well-known`, which hosts serve.
 * @throws {SiteError} when there is no such folder
 */
export async function listFolder(folder: string): Promise<FolderFiles> {
  const root = await realFolder(folder);
  const files = new Map<string, string>();
  const seenFolders = new Set<string>();

  const walk = async (directory: string, prefix: string): Promise<void> => {
    const real = await realpath(directory);
    if (!isInside(root, real) || seenFolders.has(real)) return;
    seenFolders.add(real);
    const entries = await readdir(directory, { withFileTypes: true });
    for (const entry of entries.sort((a, b) => (a.name < b.name ? -1 : 1))) {
      const path = join(directory, entry.name);
      const name = `${prefix}${entry.name}`;
      const hidden = entry.name.startsWith('.') && entry.name !== '.well-known';
      if (entry.isDirectory()) {
        if (!hidden) await walk(path, `${name}/`);
      } else if (entry.isFile()) {
        files.set(name, path);
      } else if (entry.isSymbolicLink()) {
        await followLink(path, name, hidden);
      }
    }
  };

  const followLink = async (path: string, name: string, hidden: boolean): Promise<void> => {
    const target = await realpath(path).catch(() => undefined);
    if (target === undefined || !isInside(root, target)) return;
    const kind = await stat(target);
    if (kind.isDirectory() && !hidden) await walk(path, `${name}/`);
    else if (kind.isFile()) files.set(name, path);
  };

  await walk(root, '');
  return files;
}

async function realFolder(folder: string): Promise<string> {
  const root = await realpath(folder).catch(() => {
    throw new SiteError(
      'NO_SUCH_FOLDER',
      `There is no folder "${folder}". Give the folder that your host serves, for example: yukkuri audit ./public`,
    );
  });
  if (!(await stat(root)).isDirectory()) {
    throw new SiteError(
      'NOT_A_FOLDER',
      `"${folder}" is a file. Give the folder it stands in, and name the page after it.`,
    );
  }
  return root;
}

function isInside(root: string, path: string): boolean {
  const way = relative(root, path);
  return way === '' || (way !== '..' && !way.startsWith(`..${sep}`));
}
