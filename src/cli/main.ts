import tab from '@bomb.sh/tab/commander';
import { Command } from 'commander';
import { auditCommand } from './audit-command.js';
import { cacheCommand } from './cache-command.js';
import { compareCommand } from './compare-command.js';
import { demoCommand } from './demo-command.js';
import { whyCommand } from './why-command.js';
import { reportCommand } from './report-command.js';
import { sizesCommand } from './sizes-command.js';
import { weighCommand } from './weigh-command.js';
import { initCommand } from './init-command.js';
import { mendCommand } from './mend-command.js';
import { placeholderCommand } from './placeholder-command.js';
import { reportError } from './errors.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import { coloursOf, type Io } from './io.js';
import { toolVersion } from '../version.js';

/** Runs the program. The caller sets the exit code. */
export async function main(argv: readonly string[], io: Io): Promise<ExitCode> {
  let code: ExitCode = exitCodes.done;
  const program = new Command('yukkuri')
    .description(
      'Finds the image problems of a built web site in a real browser and ranks the fixes by bytes saved.',
    )
    .version(toolVersion)
    .showHelpAfterError('(see "yukkuri --help" and "yukkuri COMMAND --help")');
  const finish = (result: ExitCode) => {
    code = result;
  };
  program.addCommand(auditCommand(io, finish));
  program.addCommand(mendCommand(io, finish));
  program.addCommand(reportCommand(io, finish));
  program.addCommand(compareCommand(io, finish));
  program.addCommand(whyCommand(io, finish));
  program.addCommand(sizesCommand(io, finish));
  program.addCommand(weighCommand(io, finish));
  program.addCommand(placeholderCommand(io, finish));
  program.addCommand(demoCommand(io, finish));
  program.addCommand(initCommand(io, finish));
  program.addCommand(cacheCommand(io, finish));
  // Its own words, which shells ask it by, are written by the package.
  tab(program, { completionCommandName: 'completion' });
  program.commands
    .find((command) => command.name() === 'completion')
    ?.description('Print a script that completes commands and options: for zsh, bash, fish or powershell.');
  for (const command of [program, ...program.commands]) {
    command.exitOverride().configureOutput({
      writeOut: (text) => io.out.write(text),
      writeErr: (text) => io.err.write(text),
      getOutHelpWidth: () => io.out.columns,
      getErrHelpWidth: () => io.err.columns,
      getOutHasColors: () => coloursOf(io.out, io.environment) > 0,
      getErrHasColors: () => coloursOf(io.err, io.environment) > 0,
    });
  }
  try {
    await program.parseAsync([...argv], { from: 'user' });
    return code;
  } catch (cause) {
    return reportError(cause, io);
  }
}
