import { causeInWords } from '../wording/words.js';
/** The value is not a run of a format that this version reads. */
export class RunFormatError extends Error {
  readonly code = 'RUN_FORMAT';

  constructor(cause: unknown) {
    const why = causeInWords(cause);
    super(`This is not a run file of format yukkuri-run/2: ${why}. Make a new one with "yukkuri audit".`, {
      cause,
    });
    this.name = 'RunFormatError';
  }
}
