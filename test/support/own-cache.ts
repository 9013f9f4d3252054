import { mkdtemp, readdir, rm, symlink, mkdir } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import envPaths from 'env-paths';

/** Where env-paths looks for caches on Linux. */
const variable = 'XDG_CACHE_HOME';

let folder: string | undefined;

/**
 * Tests measure with a cache of their own: what an earlier version of the program measured would hide what this one does. The browser, which
 * takes long to unpack, is taken from the user's.
 */
export async function mochaGlobalSetup(): Promise<void> {
  const { cache } = envPaths('yukkuri', { suffix: '' });
  folder = await mkdtemp(join(tmpdir(), 'yukkuri-test-cache-'));
  await mkdir(join(folder, 'yukkuri'));
  for (const name of await readdir(cache).catch(() => []))
    if (/^chromium-[\w.]+-\d+$/.test(name)) await symlink(join(cache, name), join(folder, 'yukkuri', name));
  process.env[variable] = folder;
}

export async function mochaGlobalTeardown(): Promise<void> {
  if (folder !== undefined) await rm(folder, { recursive: true, force: true });
}
