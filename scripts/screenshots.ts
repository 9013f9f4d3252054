/**
 * Takes the pictures in docs/screenshots: runs the built program on the demo, shows what it prints in a terminal emulator and
 * photographs that at 1280×800. Give names to take only some.
 */
import { mkdir, mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { execa } from 'execa';
import { launch } from 'puppeteer-core';
import { openFolder } from '../dist/src/site/index.js';
import { drawDemoSite } from '../dist/demo/draw.js';
import { findBrowser } from '../src/browser/find.js';
import { photographReport, reportShots } from './report-shots.js';

interface Shot {
  name: string;
  args: string[];
  columns: number;
  fontSize: number;
  /** Lines skipped from the top; from the end where it is below 0. */
  from?: number;
  /** On a terminal, with nothing known from before, ended once this has been written. */
  until?: RegExp;
}

const silent = { begin: () => undefined, step: () => undefined };
const demoSite = await drawDemoSite(undefined, silent);
const served = await openFolder(demoSite);

const shots: Shot[] = [
  { name: 'demo', args: ['demo', '--limit', '2'], columns: 120, fontSize: 17 },
  { name: 'sizes', args: ['sizes', demoSite, '/', '--match', '.card'], columns: 118, fontSize: 16, from: 22 },
  {
    name: 'why',
    args: ['why', demoSite, '/', '--match', '.hero, section:nth-of-type(2) .card:nth-child(2)'],
    columns: 126,
    fontSize: 15,
  },
  {
    name: 'weigh',
    args: [
      'weigh',
      `${demoSite}/pictures/skarn.jpg`,
      `${demoSite}/pictures/map-skarn-1680.png`,
      '--widths',
      '480,960,1680',
    ],
    columns: 110,
    fontSize: 17,
  },
  {
    name: 'ranking',
    args: ['audit', demoSite],
    columns: 118,
    fontSize: 16,
    until: /pictures[^\r\n]* (3\d|4\d) of \d+[^\r\n]*/,
  },
  { name: 'seen-before', args: ['audit', demoSite, '--limit', '1'], columns: 118, fontSize: 16, from: -24 },
  { name: 'causes', args: ['demo', '--by', 'cause', '--limit', '1'], columns: 110, fontSize: 17 },
  { name: 'mend', args: ['demo', '--mend'], columns: 118, fontSize: 16 },
  { name: 'hosted', args: ['demo', '--hosted', '--limit', '1,0'], columns: 118, fontSize: 16 },
  {
    name: 'address',
    args: ['audit', `${served.origin}/huts/`, `${served.origin}/news/`, '--follow', '1', '--limit', '0,12'],
    columns: 118,
    fontSize: 16,
    from: -40,
  },
  { name: 'demo-80-columns', args: ['demo', '--limit', '8'], columns: 80, fontSize: 16, from: 62 },
  {
    name: 'visit',
    args: ['audit', demoSite, '--page', '/news/new-bridge.html', '--limit', '12'],
    columns: 126,
    fontSize: 15,
    from: 42,
  },
];

/** Rows of the terminal at a size of letters, px. */
const rowsAt = (fontSize: number) => Math.floor(772 / (fontSize * 1.2));

const root = fileURLToPath(new URL('..', import.meta.url));
const xterm = (path: string) => readFile(fileURLToPath(import.meta.resolve(`@xterm/xterm/${path}`)), 'utf8');

async function capture({ args, columns }: Shot): Promise<string> {
  const { stdout } = await execa(process.execPath, ['dist/program/yukkuri.js', ...args], {
    cwd: root,
    env: { FORCE_COLOR: '1', COLUMNS: String(columns) },
    stderr: 'ignore',
    reject: false,
  });
  return stdout;
}

/** What a program writes to a terminal until then: `script` of util-linux gives it one. */
async function captureLive({ args, columns, fontSize, until }: Shot): Promise<string> {
  const cache = await mkdtemp(join(tmpdir(), 'yukkuri-shot-'));
  const command = [process.execPath, 'dist/program/yukkuri.js', ...args].map((word) => `'${word}'`).join(' ');
  const child = execa(
    'script',
    ['-qefc', `stty cols ${columns} rows ${rowsAt(fontSize)}; exec ${command}`, '/dev/null'],
    { cwd: root, env: { XDG_CACHE_HOME: cache, FORCE_COLOR: '1' }, reject: false, buffer: false },
  );
  let written = '';
  child.stdout.on('data', (piece: Buffer) => {
    written += piece.toString('utf8');
    if (until?.test(written)) child.kill('SIGINT');
  });
  await child;
  await rm(cache, { recursive: true, force: true });
  const end = until?.exec(written);
  // The rest of the line is cleared by a write of its own.
  return end ? `${written.slice(0, end.index + end[0].length)}\x1b[0K` : written;
}

const wanted = process.argv.slice(2);
const { executable, environment } = await findBrowser();
const browser = await launch({
  executablePath: executable,
  headless: 'shell',
  pipe: true,
  args: process.getuid?.() === 0 ? ['--no-sandbox'] : [],
  env: { ...process.env, ...environment } as Record<string, string>,
});
await mkdir(`${root}/docs/screenshots`, { recursive: true });
for (const shot of shots.filter(({ name }) => wanted.length === 0 || wanted.includes(name))) {
  const captured = shot.until ? await captureLive(shot) : await capture(shot);
  const output = captured.replaceAll(demoSite, './norrfell-huts');
  const command = shot.args.map((word) => word.replace(demoSite, './norrfell-huts')).join(' ');
  const lines = output.split('\n').slice(shot.from ?? 0);
  const rows = rowsAt(shot.fontSize);
  const text = [`$ yukkuri ${command}`, ...(shot.until ? lines : lines.slice(0, rows - 2))].join('\r\n');
  const page = await browser.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  await page.setContent(
    `<style>${await xterm('css/xterm.css')} body{margin:0;padding:14px;background:#14191c}</style><div id="terminal"></div>`,
  );
  await page.addScriptTag({ content: await xterm('lib/xterm.js') });
  await page.evaluate(
    ({ text, columns, rows, fontSize }) =>
      new Promise<void>((resolve) => {
        const { Terminal } = globalThis as unknown as { Terminal: new (options: object) => TerminalLike };
        const terminal = new Terminal({
          cols: columns,
          rows,
          fontSize,
          fontFamily: 'monospace',
          theme: { background: '#14191c' },
        });
        terminal.open(
          (
            globalThis as unknown as { document: { getElementById(id: string): unknown } }
          ).document.getElementById('terminal'),
        );
        terminal.write(text, () => setTimeout(resolve, 200));
      }),
    { text, columns: shot.columns, rows, fontSize: shot.fontSize },
  );
  await page.screenshot({ path: `${root}/docs/screenshots/${shot.name}.png` });
  await page.close();
}
if (wanted.length === 0 || reportShots.some((name) => wanted.includes(name)))
  await photographReport(browser, root, demoSite);
await browser.close();
await served.close();

interface TerminalLike {
  open(element: unknown): void;
  write(text: string, done: () => void): void;
}
