import { chmod, mkdir, stat, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { dirname, join } from 'node:path';
import pLimit from 'p-limit';
import type { WrittenFile } from '../core/mending/mended.js';
import { causeInWords } from '../core/wording/words.js';
import type { FileToMake, Fix, ImageFile, PicturePrice, Run } from '../core/run/index.js';
import { makeFile, type MakeOptions } from '../images/index.js';
import type { Site } from '../site/index.js';
import type { Progress } from '../survey/index.js';

/** The path of a file in the folder, from its address. */
function pathOf(url: string, basePath: string): string {
  const path = url.replace(/[?#].*$/s, '');
  return path.slice(basePath.length).split('/').map(decodeURIComponent).join('/');
}

/** Makes the files that fixes ask for, a few at a time, each once. */
export async function writeFiles(
  site: Site,
  copy: string,
  run: Readonly<Run>,
  fixes: readonly Fix[],
  {
    progress,
    interrupted,
    ...options
  }: MakeOptions & { progress: Progress; interrupted?: AbortSignal | undefined },
): Promise<WrittenFile[]> {
  const wanted = new Map(
    fixes
      .flatMap(({ files }) => files)
      .filter(({ asked }) => asked !== true)
      .map((file) => [file.name, file]),
  );
  const masters = new Map(run.files.map((file) => [file.url, file]));
  const prices = new Map(run.prices.map((price) => [price.url, price]));
  progress.begin('files', wanted.size);
  const limit = pLimit(Math.max(1, availableParallelism()));
  // Nothing may still be written when the copy is taken away.
  const settled = await Promise.allSettled(
    [...wanted.values()].map((file) =>
      limit(async () => {
        interrupted?.throwIfAborted();
        const from = { master: masters.get(file.from), price: prices.get(file.from), options };
        return writeOne(site, copy, file, from).finally(() => progress.step());
      }),
    ),
  );
  const written = settled.map((each) => {
    if (each.status === 'rejected') throw each.reason;
    return each.value;
  });
  return written.sort((a, b) => (a.name < b.name ? -1 : 1));
}

async function writeOne(
  site: Site,
  copy: string,
  file: FileToMake,
  {
    master,
    price,
    options,
  }: { master: ImageFile | undefined; price: PicturePrice | undefined; options: MakeOptions },
): Promise<WrittenFile> {
  const result: WrittenFile = { name: file.name, promised: file.bytes, bytes: 0, looks: null, problem: null };
  try {
    const from = site.fileAt(file.from);
    if (from === undefined || !master) throw new Error(`${file.from} is not there any more`);
    const { content, decibels } = await makeFile(await site.read(from), file, master, options);
    const target = join(copy, pathOf(file.name, site.basePath));
    await mkdir(dirname(target), { recursive: true });
    if (await stat(target).catch(() => undefined)) throw new Error('a file of that name has come meanwhile');
    await writeFile(target, content);
    const wanted =
      file.crop?.decibels ?? price?.formats[file.format]?.find(({ width }) => width === file.width)?.decibels;
    const compared = decibels !== undefined && wanted !== undefined && wanted !== null;
    return { ...result, bytes: content.length, looks: compared ? { wanted, reached: decibels } : null };
  } catch (cause) {
    return { ...result, problem: causeInWords(cause) };
  }
}

/** Writes over a file of the copy, whatever its permissions were in the site; of a site at an address it is not there yet. */
export async function writeContent(file: string, content: Buffer): Promise<void> {
  const { mode } = (await stat(file).catch(() => undefined)) ?? { mode: 0o200 };
  if ((mode & 0o200) === 0) await chmod(file, mode | 0o200);
  await mkdir(dirname(file), { recursive: true });
  await writeFile(file, content);
}
