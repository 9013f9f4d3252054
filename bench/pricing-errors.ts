/**
 * Compares estimated prices with real encodes at widths that were not probed, on forty drawn photographs and on the pictures of any
 * folders that are named. Prints the table of docs/pricing.md. Needs a build.
 */
/* eslint-disable no-console -- prints its results */
import { readdir, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { readImageFacts } from '../dist/src/images/index.js';
import { priceErrors, quantile, sameSizeErrors, type PriceError } from '../test/support/price-errors.js';
import { variedPictures, type DrawnPicture } from '../test/support/varied-pictures.js';

const probes = [320, 800, 1600];
const between = [420, 560, 1060, 1300];
const formats = ['jpeg', 'webp', 'avif'];

const percent = (share: number) => `${(share * 100).toFixed(1)} %`;

function table(title: string, pictures: number, errors: readonly PriceError[]): void {
  console.log(`\n${title}: ${pictures} pictures, ${errors.length} estimates`);
  for (const format of [...new Set(errors.map((error) => error.format))].sort()) {
    const own = errors.filter((error) => error.format === format);
    const bias = own.map(({ error }) => error).sort((a, b) => a - b)[Math.floor(own.length / 2)] ?? 0;
    console.log(
      `| ${format} | ${own.length} | ${percent(quantile(own, 0.5))} | ${percent(quantile(own, 0.95))} | ${percent(quantile(own, 1))} | ${percent(bias)} |`,
    );
  }
  console.log(
    `| all | ${errors.length} | ${percent(quantile(errors, 0.5))} | ${percent(quantile(errors, 0.95))} | ${percent(quantile(errors, 1))} | |`,
  );
}

/** Photographs of a folder and what is below it that are at least as wide as the widest probe. */
async function picturesOf(folder: string): Promise<DrawnPicture[]> {
  const pictures: DrawnPicture[] = [];
  for (const name of (await readdir(folder, { recursive: true })).sort()) {
    const path = join(folder, name);
    if (!/\.(jpe?g|png|webp|avif)$/i.test(name) || !(await stat(path)).isFile()) continue;
    const content = await readFile(path);
    const { problem, width, height, frames } = await readImageFacts(name, content);
    if (problem === undefined && frames === 1 && width >= 1600 && width * height < 60_000_000)
      pictures.push({ name, content });
  }
  return pictures;
}

const drawn = await variedPictures(1800);
table('Drawn', drawn.length, await priceErrors(drawn, probes, between, formats));
/** The same picture within a soft-edged oval, and nothing around it. */
async function cutOutOf({ name, content }: DrawnPicture): Promise<DrawnPicture> {
  const picture = sharp(content);
  const { width, height } = await picture.metadata();
  const oval = Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><defs><filter id="f"><feGaussianBlur stdDeviation="6"/></filter></defs><ellipse cx="50%" cy="50%" rx="36%" ry="44%" fill="#fff" filter="url(#f)"/></svg>`,
  );
  const cut = picture.ensureAlpha().composite([{ input: oval, blend: 'dest-in' }]);
  return { name: `${name}.cut.png`, content: await cut.png().toBuffer() };
}

const cut = await Promise.all(drawn.map(cutOutOf));
table('Drawn, cut out', cut.length, await priceErrors(cut, probes, between, ['webp', 'avif']));
const small = await variedPictures(1000);
table('Drawn, at their own size', small.length, await sameSizeErrors(small, 1000, formats));
for (const folder of process.argv.slice(2)) {
  const pictures = await picturesOf(folder);
  const errors: PriceError[] = [];
  // A few at a time: their files need not all be in memory.
  for (let start = 0; start < pictures.length; start += 8)
    errors.push(...(await priceErrors(pictures.slice(start, start + 8), probes, between, formats)));
  table(folder, pictures.length, errors);
  for (const { name, format, width, estimated, real, error } of errors
    .filter((each) => Math.abs(each.error) > 0.15)
    .slice(0, 20))
    console.log(`  ${name} ${format} ${width} px: ${estimated} against ${real} (${percent(error)})`);
}
