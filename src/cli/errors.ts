import { CommanderError } from 'commander';
import { BrowserError } from '../browser/errors.js';
import { RunFormatError, ScreenError } from '../core/run/index.js';
import { MendError } from '../mending/errors.js';
import { SiteError } from '../site/errors.js';
import { exitCodes, type ExitCode } from './exit-codes.js';
import type { Io } from './io.js';

/** An option's value is not usable. */
export class UsageError extends Error {
  readonly code = 'USAGE';

  constructor(message: string, options?: ErrorOptions) {
    super(message, options);
    this.name = 'UsageError';
  }
}

/** Tells the user of an error and gives the exit code: a user's mistake without a stack, our own with it. */
export function reportError(cause: unknown, { err }: Io): ExitCode {
  if (cause instanceof CommanderError) {
    // Commander has said it already; help and version are no errors.
    return cause.exitCode === 0 ? exitCodes.done : exitCodes.wrongUse;
  }
  if (cause instanceof BrowserError) {
    err.write(`yukkuri: ${cause.message}\n`);
    return exitCodes.notFinished;
  }
  if (
    cause instanceof SiteError ||
    cause instanceof MendError ||
    cause instanceof ScreenError ||
    cause instanceof UsageError ||
    cause instanceof RunFormatError
  ) {
    err.write(`yukkuri: ${cause.message}\n`);
    return isOutOfRoom(cause) || isUnanswered(cause) ? exitCodes.notFinished : exitCodes.wrongUse;
  }
  err.write(`yukkuri: this is a fault of the program, please report it.\n${describe(cause)}\n`);
  return exitCodes.notFinished;
}

/** Nor is a server that does not answer. */
const isUnanswered = (cause: Error) => cause instanceof SiteError && cause.code === 'NO_ANSWER';

/** A full or failing disk is no wrong use. */
function isOutOfRoom({ cause }: Error): boolean {
  const code = cause instanceof Error && 'code' in cause ? cause.code : undefined;
  return code === 'ENOSPC' || code === 'EDQUOT' || code === 'EIO';
}

function describe(cause: unknown): string {
  return cause instanceof Error ? (cause.stack ?? cause.message) : String(cause);
}
