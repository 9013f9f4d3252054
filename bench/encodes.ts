/* eslint-disable no-console -- prints its results */
/**
 * Times measuring: small files with a cold and a warm cache, and one photograph of 50 megapixels. Each in a process of its own, so that
 * the peak of its memory is its own. Needs a build.
 */
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { execa } from 'execa';
import sharp from 'sharp';
import { KeptValues } from '../dist/src/cache/index.js';
import { measureOrder, MeasuredCache, Measurer, readImageFacts } from '../dist/src/images/index.js';
import { ridges } from '../test/support/varied-pictures.js';

const smallFiles = 1000;

/** Measures files from memory, all asked for at once, as an audit does. */
async function measureAll(
  contents: readonly Buffer[],
  cacheFolder: string,
  widths: readonly number[],
): Promise<number> {
  const measurer = new Measurer(new MeasuredCache(new KeptValues(cacheFolder)));
  const encodes = await Promise.all(
    contents.map(async (content) => {
      const file = await readImageFacts('/a', content);
      const order = measureOrder(file, { widths, looks: 73, formats: ['avif'], drawings: ['webp'] });
      const { formats } = await measurer.measure(file.hash, order, () => Promise.resolve(content));
      return Object.values(formats).reduce((sum, points) => sum + points.length, 0);
    }),
  );
  await measurer.close();
  return encodes.reduce((sum, each) => sum + each, 0);
}

async function smallPictures(): Promise<Buffer[]> {
  const base = await sharp(await ridges(400, 300, 95))
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { width, height } = base.info;
  return Promise.all(
    Array.from({ length: smallFiles }, (_, index) =>
      sharp(base.data, { raw: { width, height, channels: 3 } })
        .modulate({ brightness: 0.8 + index / 2500, hue: index % 360 })
        .jpeg({ quality: 90 })
        .toBuffer(),
    ),
  );
}

async function work(kind: string, folder: string): Promise<void> {
  const contents = kind === 'large' ? [await readFile(join(folder, 'large.jpg'))] : await smallPictures();
  const began = performance.now();
  const points = await measureAll(
    contents,
    join(folder, 'cache'),
    kind === 'large' ? [390, 1600, 2880] : [200, 400],
  );
  const seconds = (performance.now() - began) / 1000;
  console.log(
    `${kind}: ${points} prices in ${seconds.toFixed(1)} s (${(points / seconds).toFixed(1)} a second)`,
  );
}

/** Largest sum of the memory of a process and its children, MB, sampled while it runs. */
async function peakMemory(pid: number): Promise<number> {
  for (let peak = 0; ;) {
    const { stdout } = await execa('ps', ['-o', 'rss=', '-p', `${pid}`, '--ppid', `${pid}`], {
      reject: false,
    });
    const sum = stdout.split('\n').reduce((total, line) => total + Number(line), 0);
    if (sum === 0) return Math.round(peak / 1000);
    peak = Math.max(peak, sum);
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

const [, self = '', kind, given = ''] = process.argv;
if (kind === undefined) {
  const folder = await mkdtemp(join(tmpdir(), 'yukkuri-bench-'));
  try {
    const small = await ridges(2900, 1933, 95);
    await writeFile(
      join(folder, 'large.jpg'),
      await sharp(small).resize({ width: 8660, height: 5774 }).jpeg({ quality: 90 }).toBuffer(),
    );
    for (const each of ['cold', 'warm', 'large']) {
      const run = execa(process.execPath, ['--import', 'tsx', self, each, folder]);
      const peak = peakMemory(run.pid ?? 0);
      const { stdout } = await run;
      console.log(`${stdout}, peak ${await peak} MB in all its processes`);
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
} else await work(kind, given);
