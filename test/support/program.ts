import { mkdtemp, mkdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { execa } from 'execa';
import sharp from 'sharp';
import type { Io } from '../../src/cli/io.js';
import type * as Program from '../../src/cli/main.js';
import { readRun, type Finding, type Run } from '../../src/core/run/index.js';

const program = fileURLToPath(new URL('../../dist/program/yukkuri.js', import.meta.url));

export interface Outcome {
  code: number | undefined;
  out: string;
  err: string;
}

/** What the built program does, without the process around it. */
const built = () =>
  import(fileURLToPath(new URL('../../dist/program/main.js', import.meta.url))) as Promise<typeof Program>;

/**
 * Runs the built program, without colours, in the process of the test: to start one for each run takes longer than most runs themselves.
 * @param environment set while it runs
 * @param folder where it runs
 */
export async function yukkuri(
  args: string[],
  environment: Readonly<Record<string, string>> = {},
  folder?: string,
): Promise<Outcome> {
  const { main } = await built();
  const before = { environment: { ...process.env }, folder: process.cwd() };
  Object.assign(process.env, environment);
  if (folder !== undefined) process.chdir(folder);
  const texts = { out: '', err: '' };
  const output = (name: keyof typeof texts): Io['out'] => ({
    write: (text) => void (texts[name] += text),
    isTerminal: false,
    columns: Number(process.env['COLUMNS'] ?? 100),
  });
  try {
    const given = { NO_COLOR: '1', ...process.env };
    const code = await main(args, { out: output('out'), err: output('err'), environment: given });
    return { code, out: texts.out.trimEnd(), err: texts.err.trimEnd() };
  } finally {
    for (const name of Object.keys(environment)) {
      const own = before.environment[name];
      if (own === undefined) Reflect.deleteProperty(process.env, name);
      else process.env[name] = own;
    }
    process.chdir(before.folder);
  }
}

/** Runs the built program as a process of its own. Colours are off unless asked for. */
export async function yukkuriProcess(
  args: string[],
  environment: Record<string, string> = {},
  folder?: string,
): Promise<Outcome> {
  const { exitCode, stdout, stderr } = await execa(process.execPath, [program, ...args], {
    reject: false,
    env: { NO_COLOR: '1', ...environment },
    ...(folder === undefined ? {} : { cwd: folder }),
  });
  return { code: exitCode, out: stdout, err: stderr };
}

/** Audits a folder and gives the run, checked against its schema. */
export async function auditRun(folder: string, ...args: string[]): Promise<Run> {
  const { code, out, err } = await yukkuri(['audit', folder, '--json', ...args]);
  if (code !== 0) throw new Error(`exit code ${code}: ${err}`);
  return readRun(JSON.parse(out));
}

const made: string[] = [];

/** Writes files into a new temporary folder. */
export async function siteOf(files: Record<string, string | Buffer>): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'yukkuri-test-'));
  made.push(folder);
  for (const [name, content] of Object.entries(files)) {
    await mkdir(dirname(join(folder, name)), { recursive: true });
    await writeFile(join(folder, name), content);
  }
  return folder;
}

export async function removeSites(): Promise<void> {
  await Promise.all(made.splice(0).map((folder) => rm(folder, { recursive: true, force: true })));
}

/** A page with a viewport and no margins, so that slots can be worked out by hand. */
export function page(body: string, style = ''): string {
  return (
    '<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">' +
    `<title>Test</title><style>body{margin:0}img{display:block}${style}</style><body>${body}`
  );
}

const photos = new Map<string, Promise<Buffer>>();

/** A JPEG of coarse deterministic noise: photo-like in that it does not compress to nothing. Drawn once, however often it is asked for. */
export function photo(width: number, height: number, quality = 90): Promise<Buffer> {
  const key = `${width} ${height} ${quality}`;
  const drawn = photos.get(key) ?? drawPhoto(width, height, quality);
  photos.set(key, drawn);
  return drawn;
}

async function drawPhoto(width: number, height: number, quality: number): Promise<Buffer> {
  const grain = 4;
  const columns = Math.ceil(width / grain);
  const rows = Math.ceil(height / grain);
  const small = Buffer.alloc(columns * rows * 3);
  let state = 12345;
  for (let index = 0; index < small.length; index++) {
    state = (Math.imul(state, 1103515245) + 12345) >>> 0;
    small[index] = state >>> 24;
  }
  return sharp(small, { raw: { width: columns, height: rows, channels: 3 } })
    .resize({ width, height, fit: 'fill' })
    .jpeg({ quality })
    .toBuffer();
}

export function findingsOf(run: Run, check: string): (Finding & { line: number | undefined })[] {
  return run.findings
    .filter((finding) => finding.check === check)
    .map((finding) => ({
      ...finding,
      line: run.placements.find(({ id }) => id === finding.placement)?.source?.line,
    }));
}
