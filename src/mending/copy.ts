import { constants } from 'node:fs';
import { chmod, cp, lstat, mkdir, mkdtemp, readdir, realpath, rename, rm, stat } from 'node:fs/promises';
import { basename, dirname, join, relative, resolve } from 'node:path';
import { causeInWords } from '../core/wording/words.js';
import type { Site } from '../site/index.js';
import { MendError } from './errors.js';

/**
 * Looks whether a copy of a site may be written to a folder.
 * @throws {MendError} when it lies inside the site, or holds something
 */
export async function checkTarget(site: string, target: string): Promise<void> {
  const inside = relative(resolve(site), resolve(target));
  if (!inside.startsWith('..') && resolve(site) !== resolve(target) && !/^[A-Za-z]:/.test(inside))
    throw new MendError(
      'TARGET_INSIDE_SITE',
      `"${target}" lies inside the site "${site}": the next audit would take it for a part of it. Give --to a folder beside it.`,
    );
  if (resolve(site) === resolve(target))
    throw new MendError(
      'TARGET_INSIDE_SITE',
      `"${target}" is the site itself, which is never written to. Give --to another folder.`,
    );
  const found = await stat(target).catch(() => undefined);
  if (!found) return;
  const full = !found.isDirectory() || (await readdir(target)).length > 0;
  if (full)
    throw new MendError(
      'TARGET_NOT_EMPTY',
      `"${target}" is there and not empty. Give --to a folder that is empty or not there yet.`,
    );
}

/**
 * Copies a site, lets the copy be worked on beside its place, and moves it there when all is done: a copy that looks whole is whole.
 * @throws {MendError} when the copy cannot be written
 */
export async function withCopy<Result>(
  site: Site,
  target: string,
  work: (copy: string) => Promise<Result>,
): Promise<Result> {
  const place = resolve(target);
  let beside: string | undefined;
  try {
    await mkdir(dirname(place), { recursive: true });
    beside = await mkdtemp(join(dirname(place), `.${basename(place)}.mending-`));
    await (site.kind === 'folder' ? copyFolder(site.root, beside) : chmod(beside, usualMode));
    const result = await work(beside);
    await rm(place, { recursive: true, force: true });
    await rename(beside, place);
    beside = undefined;
    return result;
  } catch (cause) {
    if (
      cause instanceof Error &&
      'code' in cause &&
      typeof cause.code === 'string' &&
      /^E[A-Z]+$/.test(cause.code)
    )
      throw new MendError(
        'TARGET_NOT_WRITABLE',
        `The copy cannot be written to "${target}": ${causeInWords(cause)}. Nothing was left there.`,
        { cause },
      );
    throw cause;
  } finally {
    if (beside !== undefined) await rm(beside, { recursive: true, force: true });
  }
}

/** Of a site at an address nothing is copied: what is mended stands alone, and anybody may read it. */
const usualMode = 0o755;

async function copyFolder(site: string, beside: string): Promise<void> {
  // Clones where the file system can; files that are read-only in the site are written anew, never through.
  const root = await realpath(site);
  await cp(site, beside, {
    recursive: true,
    mode: constants.COPYFILE_FICLONE,
    dereference: true,
    filter: (path) => belongs(root, path),
  });
  // Temporary folders are closed to others; a server has to read the copy as it reads the site.
  await chmod(beside, (await stat(site)).mode & 0o777);
}

const isWithin = (folder: string, path: string) => !relative(folder, path).startsWith('..');

/**
 * Whether something of a site is copied: what no host would send (pipes, devices) is not, nor are links out of the site, or in circles.
 */
async function belongs(root: string, path: string): Promise<boolean> {
  const kind = await lstat(path);
  if (!kind.isSymbolicLink()) return kind.isFile() || kind.isDirectory();
  const target = await realpath(path).catch(() => undefined);
  if (target === undefined || !isWithin(root, target)) return false;
  const led = await stat(target);
  return led.isFile() || (led.isDirectory() && !isWithin(target, await realpath(dirname(path))));
}
