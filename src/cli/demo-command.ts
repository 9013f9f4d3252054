import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { Command } from 'commander';
import { addAuditOptions, readFlags, type AuditFlags } from './audit-options.js';
import type { ExitCode } from './exit-codes.js';
import type { Io } from './io.js';
import { ProgressBar } from './progress-bar.js';

export function demoCommand(io: Io, finish: (code: ExitCode) => void): Command {
  const command = new Command('demo')
    .description(
      'Audit the site that ships with the program: Norrfell Huts, an invented association of mountain huts.',
    )
    .option('--folder <path>', 'put the site into this folder instead of the cache')
    .option('--mend', 'mend a copy of it, and show the proof instead of the report')
    .option(
      '--hosted',
      'audit a page of it instead whose pictures come from a simulated host that resizes by address',
    )
    .action(async (options: { folder?: string; mend?: boolean; hosted?: boolean }) => {
      const flags = readFlags(options);
      const { drawDemoSite } = await import('../../demo/draw.js');
      const { auditFolder } = await import('./audit-folder.js');
      const progress = new ProgressBar(io);
      let folder: string;
      try {
        folder = await drawDemoSite(options.folder, progress);
      } finally {
        progress.end();
      }
      const run = (site: string, own: AuditFlags) =>
        options.mend ? mendDemo(site, own, io) : auditFolder([site], own, io);
      finish(await (options.hosted ? withImageHost(folder, flags, run) : run(folder, flags)));
    });
  return addAuditOptions(command);
}

/** The page names the port of the host, which is another one each time. */
async function withImageHost(
  folder: string,
  flags: AuditFlags,
  run: (site: string, flags: AuditFlags) => Promise<ExitCode>,
): Promise<ExitCode> {
  const { mkdir, mkdtemp, rm, writeFile } = await import('node:fs/promises');
  const { serveImageHost } = await import('../../demo/image-host.js');
  const { hostedPage } = await import('../../demo/hosted-page.js');
  const host = await serveImageHost(join(folder, 'pictures'));
  const place = await mkdtemp(join(tmpdir(), 'yukkuri-hosted-'));
  const site = join(place, basename(folder));
  try {
    await mkdir(site);
    await writeFile(join(site, 'index.html'), hostedPage(host.origin));
    const allow = [...flags.allow, host.origin.replace('http://', '')];
    return await run(site, { ...flags, allow, imageHost: [...flags.imageHost, host.template] });
  } finally {
    await host.close();
    await rm(place, { recursive: true, force: true });
  }
}

/** The copy is kept for a look at it, and its place is told. */
async function mendDemo(folder: string, flags: AuditFlags, io: Io): Promise<ExitCode> {
  const { mkdtemp } = await import('node:fs/promises');
  const { mendFolder } = await import('./mend-folder.js');
  const copy = join(await mkdtemp(join(tmpdir(), 'yukkuri-demo-')), basename(folder));
  const code = await mendFolder([folder], { ...flags, to: copy, try: false, thorough: false }, io);
  if (flags.json === undefined) io.out.write(`\nThe mended copy: ${copy}\n`);
  return code;
}
