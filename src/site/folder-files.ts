import { readdir, realpath, stat } from 'node:fs/promises';
import { join, relative, sep } from 'node:path';
import { causeInWords } from '../core/wording/words.js';
import { SiteError } from './errors.js';

/** The files of a folder by their path from its root, with "/" between segments. */
export type FolderFiles = ReadonlyMap<string, string>;

/** What a folder holds, and what of it cannot be read. */
export interface ListedFolder {
  files: FolderFiles;
  /** Names that lead to what is there under another name: by links. */
  aliases: ReadonlySet<string>;
  problems: { file: string; why: string }[];
}

/** Folders of version control, which no host should send. */
const notSent: ReadonlySet<string> = new Set(['.git', '.hg', '.svn']);

/**
 * Lists every file below a folder, links followed only where they stay inside it, and none inside what a link leads to: links can go in
 * circles. Folders of version control are left out.
 * @throws {SiteError} when there is no such folder
 */
export async function listFolder(folder: string): Promise<ListedFolder> {
  const root = await realFolder(folder);
  const files = new Map<string, string>();
  const aliases = new Set<string>();
  const problems: ListedFolder['problems'] = [];
  const links: { path: string; name: string }[] = [];
  const entriesOf = (directory: string, prefix: string) =>
    readdir(directory, { withFileTypes: true }).catch((cause: unknown) => {
      problems.push({ file: prefix, why: `the folder cannot be read: ${causeInWords(cause)}` });
      return [];
    });

  const walk = async (directory: string, prefix: string, linked: boolean): Promise<void> => {
    const entries = await entriesOf(directory, prefix);
    for (const entry of entries.sort((a, b) => (a.name < b.name ? -1 : 1))) {
      const path = join(directory, entry.name);
      const name = `${prefix}${entry.name}`;
      if (notSent.has(entry.name)) continue;
      if (entry.isDirectory()) {
        await walk(path, `${name}/`, linked);
      } else if (entry.isFile()) {
        files.set(name, path);
        if (linked) aliases.add(name);
      } else if (entry.isSymbolicLink() && !linked) links.push({ path, name });
    }
  };

  await walk(root, '', false);
  // What is there by itself comes first: a link to it is only another name.
  for (const { path, name } of links) {
    const target = await realpath(path).catch(() => undefined);
    if (target === undefined || !isInside(root, target)) continue;
    const kind = await stat(target);
    if (kind.isDirectory()) await walk(target, `${name}/`, true);
    else if (kind.isFile()) {
      files.set(name, target);
      if ([...files].some(([other, place]) => place === target && other !== name)) aliases.add(name);
    }
  }
  return { files, aliases, problems };
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
