import { Command } from 'commander';
import { array, boolean, number, object, string, type InferType } from 'yup';
import { cutOrder } from '../core/bytes/cuts.js';
import { addAuditOptions, auditFields, checkOptions } from './audit-options.js';
import { collect } from './collect.js';
import { addConfigurationOptions } from './configuration/options.js';
import type { ExitCode } from './exit-codes.js';
import type { Io } from './io.js';

const schema = object({
  ...auditFields,
  to: string(),
  fix: array().of(string().required()),
  cause: array().of(
    string()
      .oneOf(cutOrder as unknown as string[], `--cause must be one of ${cutOrder.join(', ')}`)
      .required(),
  ),
  first: number().integer().min(1).label('--first'),
  from: string(),
  patch: string(),
  try: boolean().default(false),
  thorough: boolean().default(false),
});

export function mendCommand(io: Io, finish: (code: ExitCode) => void): Command {
  const command = new Command('mend')
    .description(
      'Make the fixes in a copy of the site, audit the copy, and prove what each of them has saved. The site itself is only read.',
    )
    .argument('<target...>', 'the folder that your host serves, or addresses of one site (https://…)')
    .option('--to <copy>', 'the folder for the mended copy: empty or not there yet, and outside the site')
    .option('--fix <id>', 'make only this fix; may be given several times', collect)
    .option(
      '--cause <cause>',
      `make only fixes that save something by this cause (${cutOrder.join(', ')}); may be given several times`,
      collect,
    )
    .option('--first <fixes>', 'make only the first so many of the list')
    .option('--from <run.json>', 'take the fixes of this saved run instead of auditing the site once more')
    .option('--patch <file>', 'also write the edits as one unified diff, which git apply takes')
    .option(
      '--thorough',
      'let encoders take their time: files that come out lighter and look no worse are taken instead of those that were measured',
    )
    .option('--try', 'say what would be done, and write nothing but --patch')
    .action(async (targets: string[], _: unknown, own: Command) => {
      const { settle } = await import('./configuration/apply.js');
      const { options, exceptions } = await settle(own, auditFields);
      const flags = checkOptions(schema, options, 'mend');
      const { mendFolder } = await import('./mend-folder.js');
      finish(await mendFolder(targets, flags, io, exceptions));
    });
  return addAuditOptions(addConfigurationOptions(command));
}

export type MendFlags = InferType<typeof schema>;
