import { Command } from 'commander';
import { addAuditOptions, auditFields, readFlags, toAuditOptions } from './audit-options.js';
import { addConfigurationOptions } from './configuration/options.js';
import type { ExitCode } from './exit-codes.js';
import type { Io } from './io.js';
import { ordersOf } from './outputs.js';

export function auditCommand(io: Io, finish: (code: ExitCode) => void): Command {
  const command = new Command('audit')
    .description('Look at every page of a site on several screens, and rank what to fix by bytes saved.')
    .argument('<target...>', 'the folder that your host serves, or addresses of one site (https://…)')
    .option(
      '--baseline <run.json>',
      'only what is new or worse since this saved run counts for the exit code',
    )
    .action(async (targets: string[], _: unknown, own: Command) => {
      const { settle } = await import('./configuration/apply.js');
      const { options, exceptions, limits } = await settle(own, auditFields);
      const flags = readFlags(options);
      // Mistakes are told first; the rest is loaded when it is used, so that they and help answer at once.
      toAuditOptions(flags);
      ordersOf(flags, flags.json === true ? ['run'] : []);
      const { auditFolder } = await import('./audit-folder.js');
      finish(await auditFolder(targets, flags, io, { exceptions, limits }));
    });
  return addAuditOptions(addConfigurationOptions(command));
}
