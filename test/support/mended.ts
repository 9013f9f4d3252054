import { cp, mkdir, mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import sharp from 'sharp';
import type { FileToMake, Placement, Run } from '../../src/core/run/index.js';

interface Splice {
  from: number;
  to: number;
  text: string;
}

/** Where a text stands in a file: of equal ones that which the position lies in. */
function rangeOf(
  content: string,
  text: string,
  { line, column }: { line: number; column: number },
): Splice | undefined {
  const lines = content.split('\n');
  const at = lines.slice(0, line - 1).reduce((sum, each) => sum + each.length + 1, 0) + column - 1;
  for (let from = content.indexOf(text); from >= 0; from = content.indexOf(text, from + 1))
    if (from <= at && at < from + text.length) return { from, to: from + text.length, text };
  // A style attribute stands behind its name.
  const from = content.indexOf(text, at);
  return from >= 0 && from - at < 10 ? { from, to: from + text.length, text } : undefined;
}

/** Pastes the edits of a run into a copy of a site, by their places, and makes the files. */
export async function pasteFixes(folder: string, run: Run): Promise<string> {
  const copy = await mkdtemp(join(tmpdir(), 'yukkuri-mended-'));
  await cp(folder, copy, { recursive: true });
  const placements = new Map(run.placements.map((placement) => [placement.id, placement]));
  const splices = new Map<string, Splice[]>();
  for (const { kind, places } of run.fixes) {
    if (kind !== 'edit') continue;
    for (const { placement: id, source, after } of places) {
      const { markup } = placements.get(id) as Placement;
      if (!source) continue;
      const content = await readFile(join(folder, source.file), 'utf8');
      const range = rangeOf(content, markup, source);
      if (!range) throw new Error(`${source.file}:${source.line} does not hold ${markup}`);
      const own = splices.get(source.file) ?? [];
      splices.set(source.file, own);
      // A rule that several pages show is pasted once.
      if (!own.some(({ from }) => from === range.from)) own.push({ ...range, text: after });
    }
  }
  for (const [file, list] of splices) {
    let content = await readFile(join(folder, file), 'utf8');
    for (const { from, to, text } of list.sort((a, b) => b.from - a.from))
      content = content.slice(0, from) + text + content.slice(to);
    await writeFile(join(copy, file), content);
  }
  for (const file of run.fixes.flatMap(({ files }) => files)) await make(folder, copy, file, run);
  return copy;
}

const pathOf = (url: string) =>
  url
    .replace(/[?#].*$/s, '')
    .slice(1)
    .split('/')
    .map(decodeURIComponent)
    .join('/');

/** Makes a file as a reader would who does what the fix says. */
async function make(folder: string, copy: string, file: FileToMake, run: Run): Promise<void> {
  const { from, name, width, format, quality, palette, recipe } = file;
  const content = await readFile(join(folder, pathOf(from)));
  const source = run.files.find(({ url }) => url === from);
  const target = join(copy, pathOf(name));
  await mkdir(dirname(target), { recursive: true });
  if (recipe === 'bare' || recipe === 'cleaned') return writeFile(target, content);
  const picture = sharp(content, { animated: recipe === 'animation' })
    .autoOrient()
    .toColourspace('srgb');
  const sized = recipe === 'animation' ? picture : picture.resize({ width, fastShrinkOnLoad: false });
  const options = quality === null ? {} : { quality: Math.round(quality) };
  const reduced = () => sized.clone().png({ palette: true, dither: 0, compressionLevel: 9 });
  const encoded = {
    jpeg: () => sized.jpeg({ ...options, progressive: true }),
    webp: async () =>
      (palette ? sharp(await reduced().toBuffer()) : sized).webp(
        quality === null ? { lossless: true } : options,
      ),
    avif: () => sized.avif({ ...options, effort: 0, chromaSubsampling: '4:2:0' }),
    png: () =>
      palette
        ? reduced()
        : sized.png(
            source?.palette === true || quality === null
              ? { palette: source?.palette === true, compressionLevel: 9 }
              : {},
          ),
  }[format];
  await writeFile(target, encoded ? await (await encoded()).toBuffer() : content);
}
