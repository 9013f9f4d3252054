/* eslint-disable no-console -- prints its results */
/**
 * Audits a generated site of many pages of six templates, and tells how long that takes against opening every page bare, what memory and
 * room it takes, and which of the planted faults it finds: "npm run bench -- templates 5000 2" for 5,000 pages on two screens. Needs a build.
 */
import { spawn } from 'node:child_process';
import { mkdtemp, readFile, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pLimit from 'p-limit';
import { Browser } from '../dist/src/browser/index.js';
import { defaultScreens, readRun, type Run } from '../dist/src/core/run/index.js';
import { openFolder } from '../dist/src/site/index.js';
import { openBare } from './open-bare.js';
import { templateFaults, writeTemplatedSite, type PlantedFault } from './templated-site.js';

const [pages = 1000, screenCount = 1] = process.argv.slice(2).map(Number);
const screens = defaultScreens.slice(0, screenCount);
const atOnce = 4;
/** So many pages are opened bare; all would take hours. */
const opened = 120;

const program = fileURLToPath(new URL('../dist/program/yukkuri.js', import.meta.url));

/** Seconds that it takes to open one page on one screen, `load` waited for, several at once. */
async function bareSeconds(folder: string): Promise<number> {
  const site = await openFolder(folder);
  const browser = await Browser.open({}, { allows: (url) => url.startsWith(site.origin) });
  const limit = pLimit(atOnce);
  const step = Math.max(1, Math.floor(site.pages.length / opened));
  const some = site.pages.filter((_, index) => index % step === 0);
  const began = performance.now();
  await Promise.all(
    some.flatMap(({ path }) =>
      screens.map((screen) => limit(() => openBare(browser, screen, site.origin + path))),
    ),
  );
  const seconds = (performance.now() - began) / 1000;
  await browser.close();
  await site.close();
  return seconds / some.length / screens.length;
}

interface Audited {
  run: Run;
  seconds: number;
  /** Most of the main process, bytes. */
  memory: number;
  /** Of the run file, bytes. */
  size: number;
}

async function audited(folder: string, file: string): Promise<Audited> {
  const named = screens.flatMap(({ name, width, height, density, touch, share }) => [
    '--screen',
    `${name}=${width}x${height}@${density}${touch ? ',touch' : ''},share=${share}`,
  ]);
  const began = performance.now();
  const child = spawn(
    process.execPath,
    [
      program,
      'audit',
      folder,
      '--json',
      file,
      '--no-cache',
      '--encode',
      'none',
      '--at-once',
      String(atOnce),
      ...named,
    ],
    { stdio: ['ignore', 'ignore', 'inherit'] },
  );
  let memory = 0;
  const watch = setInterval(() => {
    void readFile(`/proc/${child.pid}/status`, 'utf8')
      .then((text) => {
        memory = Math.max(memory, Number(/VmHWM:\s+(\d+)/.exec(text)?.[1] ?? 0) * 1024);
      })
      .catch(() => undefined);
  }, 500);
  const code = await new Promise((resolve) => child.on('exit', resolve));
  clearInterval(watch);
  if (code !== 0) throw new Error(`the audit ended with ${String(code)}`);
  const seconds = (performance.now() - began) / 1000;
  const run = readRun(JSON.parse(await readFile(file, 'utf8')));
  return { run, seconds, memory, size: (await stat(file)).size };
}

function tellFaults({ findings, pages: seen }: Run, planted: readonly PlantedFault[]): void {
  const pageOf = (placement: string) => placement.slice(0, placement.lastIndexOf('#'));
  const found = new Set(findings.map(({ check, placement }) => `${check} ${pageOf(placement)}`));
  const own = planted.filter(({ page, check }) => found.has(`${check} ${page}`)).length;
  console.log(`faults of single pages found: ${own} of ${planted.length}`);
  const checks = new Set(planted.map(({ check }) => check));
  const wanted = new Set(planted.map(({ page, check }) => `${check} ${page}`));
  const extra = [...found].filter((each) => checks.has(each.split(' ')[0] ?? '') && !wanted.has(each));
  console.log(`such faults told of other pages: ${extra.length}`);
  for (const [template, check] of templateFaults.entries()) {
    if (check === undefined) continue;
    const all = seen.filter(({ path }) => path.startsWith(`/t${template}/`));
    const having = all.filter(({ path }) => found.has(`${check} ${path}`)).length;
    console.log(`${check}: on ${having} of the ${all.length} pages of its template`);
  }
}

const folder = await mkdtemp(join(tmpdir(), 'yukkuri-templates-'));
try {
  const planted = await writeTemplatedSite(folder, pages);
  const bare = await bareSeconds(folder);
  const { run, seconds, memory, size } = await audited(folder, join(folder, 'run.json'));
  const floor = bare * pages * screens.length;
  const visits = run.meta.looks?.['visit']?.made ?? 0;
  console.log(`${pages} pages on ${screens.length} screens`);
  console.log(`every page opened bare ${floor.toFixed(0)} s (from ${opened} pages)`);
  console.log(`audited without encodes ${seconds.toFixed(0)} s, ${(seconds / floor).toFixed(2)} of that`);
  console.log(`visits ${visits} of ${pages * screens.length}`);
  console.log(`memory of the main process ${(memory / 1e6).toFixed(0)} MB`);
  console.log(`run file ${(size / pages / 1000).toFixed(1)} kB a page`);
  for (const { example, pages: all, read, compared, agreed, visitedWhole } of run.readTemplates ?? [])
    console.log(`  ${example}: ${read} of ${all} read, ${agreed} of ${compared} agree ${visitedWhole ?? ''}`);
  tellFaults(run, planted);
} finally {
  await rm(folder, { recursive: true, force: true });
}
