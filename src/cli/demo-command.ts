import { Command } from 'commander';
import { addAuditOptions, readFlags } from './audit-options.js';
import type { ExitCode } from './exit-codes.js';
import type { Io } from './io.js';
import { ProgressBar } from './progress-bar.js';

export function demoCommand(io: Io, finish: (code: ExitCode) => void): Command {
  const command = new Command('demo')
    .description(
      'Audit the site that ships with the program: Norrfell Huts, an invented association of mountain huts.',
    )
    .option('--folder <path>', 'put the site into this folder instead of the cache')
    .action(async (options: { folder?: string }) => {
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
      finish(await auditFolder(folder, flags, io));
    });
  return addAuditOptions(command);
}
