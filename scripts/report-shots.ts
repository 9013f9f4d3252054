import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { execa } from 'execa';
import type { Browser } from 'puppeteer-core';

export const reportShots = ['report', 'report-fix', 'report-page', 'report-mended', 'report-phone'];

/** What is opened and scrolled to in each. */
const scenes: readonly {
  name: string;
  file: 'run' | 'mended';
  scheme: 'light' | 'dark';
  width: number;
  /** Selector of what is opened, and of what is scrolled to in it. */
  open?: string;
  to?: string;
}[] = [
  { name: 'report', file: 'run', scheme: 'light', width: 1280 },
  { name: 'report-fix', file: 'run', scheme: 'light', width: 1280, open: '.fix', to: '.fix .detail' },
  {
    name: 'report-page',
    file: 'run',
    scheme: 'dark',
    width: 1280,
    open: '.page',
    to: '.page .views',
  },
  { name: 'report-mended', file: 'mended', scheme: 'light', width: 1280, to: '#mended' },
  { name: 'report-phone', file: 'run', scheme: 'dark', width: 390, open: '.fix', to: '.fix' },
];

/** Photographs the HTML report of the demo and of its mended copy, at 800 px of height. */
export async function photographReport(browser: Browser, root: string, demoSite: string): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'yukkuri-shots-'));
  const run = async (...args: string[]) =>
    execa(process.execPath, ['dist/program/yukkuri.js', ...args], {
      cwd: root,
      stdio: 'ignore',
      reject: false,
    });
  try {
    const files = { run: join(folder, 'run.html'), mended: join(folder, 'mended.html') };
    await run('audit', demoSite, '--html', files.run);
    await run('mend', demoSite, '--to', join(folder, 'copy'), '--html', files.mended, '--pictures', 'none');
    for (const { name, file, scheme, width, open, to } of scenes) {
      const page = await browser.newPage();
      await page.setViewport({ width, height: 800 });
      await page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value: scheme }]);
      await page.goto(pathToFileURL(files[file]).href);
      if (open !== undefined) await page.$eval(open, (element) => element.setAttribute('open', ''));
      if (to !== undefined)
        await page.$eval(to, (element) => {
          element.scrollIntoView();
          // The toolbar stays at the top, over what is scrolled to.
          (globalThis as unknown as { scrollBy(x: number, y: number): void }).scrollBy(0, -110);
        });
      await new Promise((resolve) => setTimeout(resolve, 300));
      await page.screenshot({ path: `${root}/docs/screenshots/${name}.png` });
      await page.close();
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
