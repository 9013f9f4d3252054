import { createHash } from 'node:crypto';
import { access, cp, mkdir, mkdtemp, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import envPaths from 'env-paths';
import { recipes } from './pictures/catalogue.js';
import type { PaintOrder } from './pictures/paint-worker.js';
import { makeOddFiles } from './pictures/odd-files.js';
import { makeSmallFiles } from './pictures/small-files.js';

/** The folder's name is the site's name in reports. */
const siteName = 'norrfell-huts';

export interface DrawingProgress {
  begin(stage: string, total: number): void;
  step(): void;
}

/**
 * Puts the demo site on disk: its pages are copied, its pictures drawn by their recipes. A site that is there already and was
 * made from the same pages and recipes is kept.
 * @param folder where to put it; in the user's cache if left out
 * @returns the site's folder
 */
export async function drawDemoSite(folder: string | undefined, progress: DrawingProgress): Promise<string> {
  const pages = await findPages();
  const mark = await fingerprint(pages);
  const target = folder ?? join(envPaths('yukkuri', { suffix: '' }).cache, `demo-${mark}`, siteName);
  const seal = join(dirname(target), `.${siteName}-${mark}`);
  if (folder === undefined && (await exists(seal))) return target;
  await mkdir(dirname(target), { recursive: true });
  const beside = await mkdtemp(`${target}.drawing-`);
  try {
    await cp(pages, beside, { recursive: true });
    await drawPictures(join(beside, 'pictures'), progress);
    if (folder === undefined) await putInPlace(beside, target, seal);
    // A folder that the user names may hold other things: nothing is removed from it.
    else await cp(beside, target, { recursive: true });
  } finally {
    await rm(beside, { recursive: true, force: true });
  }
  return target;
}

async function putInPlace(beside: string, target: string, seal: string): Promise<void> {
  await rm(target, { recursive: true, force: true });
  await rename(beside, target).catch(async (cause: unknown) => {
    // Another process drew the same site at the same time.
    if (!(await exists(join(target, 'index.html')))) throw cause;
  });
  await writeFile(seal, '');
}

/** The pages lie in `demo/site` of the package, whether this runs compiled or from source. */
async function findPages(): Promise<string> {
  let folder = dirname(fileURLToPath(import.meta.url));
  while (!(await exists(join(folder, 'demo', 'site', 'index.html')))) {
    if (dirname(folder) === folder)
      throw new Error('The demo’s pages are missing from this installation; install it anew.');
    folder = dirname(folder);
  }
  return join(folder, 'demo', 'site');
}

/** Changes when a page, a recipe or the program that draws changes. */
async function fingerprint(pages: string): Promise<string> {
  const hash = createHash('sha256').update(JSON.stringify(recipes));
  const here = dirname(fileURLToPath(import.meta.url));
  const sources = (await readdir(join(here, 'pictures'))).filter(
    (name) => /\.[jt]s$/.test(name) && !name.endsWith('.d.ts'),
  );
  for (const name of sources.sort()) hash.update(await readFile(join(here, 'pictures', name)));
  for (const name of (await readdir(pages, { recursive: true })).sort())
    if (/\.\w+$/.test(name)) hash.update(name).update(await readFile(join(pages, name)));
  return hash.digest('hex').slice(0, 12);
}

async function drawPictures(folder: string, progress: DrawingProgress): Promise<void> {
  await mkdir(folder, { recursive: true });
  progress.begin('pictures', recipes.length + 1);
  const queue = [...recipes];
  const workers = Array.from({ length: Math.min(4, availableParallelism()) }, () =>
    work(queue, folder, progress),
  );
  const small = Promise.all([makeSmallFiles(), makeOddFiles()]).then(async (files) => {
    for (const { file, content } of files.flat()) {
      await mkdir(dirname(join(folder, file)), { recursive: true });
      await writeFile(join(folder, file), content);
    }
    progress.step();
  });
  await Promise.all([...workers, small]);
}

/** One worker thread that takes pictures from the queue until none is left. */
function work(queue: (typeof recipes)[number][], folder: string, progress: DrawingProgress): Promise<void> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./pictures/paint-worker.js', import.meta.url));
    const next = () => {
      const recipe = queue.shift();
      if (recipe) worker.postMessage({ recipe, folder } satisfies PaintOrder);
      else void worker.terminate().then(() => resolve());
    };
    worker.on('message', () => {
      progress.step();
      next();
    });
    worker.on('error', reject);
    next();
  });
}

async function exists(path: string): Promise<boolean> {
  return access(path).then(
    () => true,
    () => false,
  );
}
