import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BrowserError } from './errors.js';

/** A folder that is there until it is removed, or the program ends, whichever comes first. */
export class TemporaryFolder {
  readonly path: string;
  readonly #remove = () => rmSync(this.path, { recursive: true, force: true, maxRetries: 3 });

  /**
   * @param purpose stands in its name
   * @throws {BrowserError} where none can be made
   */
  constructor(purpose: string) {
    try {
      this.path = mkdtempSync(join(tmpdir(), `yukkuri-${purpose}-`));
    } catch (cause) {
      const why = cause instanceof Error ? cause.message.replace(/, mkdtemp .*/, '') : String(cause);
      throw new BrowserError(
        'NO_TEMPORARY_FOLDER',
        `No temporary folder can be made in "${tmpdir()}": ${why}. Let TMPDIR name a folder that can be written to.`,
        { cause },
      );
    }
    process.on('exit', this.#remove);
  }

  remove(): void {
    process.off('exit', this.#remove);
    this.#remove();
  }
}
