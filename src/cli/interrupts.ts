import { exitCodes } from './exit-codes.js';

/**
 * A signal that is aborted when the user interrupts the program: what is open is finished, what there is is written. A second time ends it
 * at once.
 * @param tell writes a line for the user
 */
export function watchInterrupts(tell: (line: string) => void): AbortSignal {
  const controller = new AbortController();
  for (const name of ['SIGINT', 'SIGTERM'] as const)
    process.on(name, () => {
      if (controller.signal.aborted) process.exit(exitCodes.interrupted);
      tell('Interrupted: finishing what is open and telling what was seen. Once more ends at once.');
      controller.abort();
    });
  return controller.signal;
}
