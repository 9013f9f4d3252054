import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A folder that is there until it is removed, or the program ends, whichever comes first. */
export class TemporaryFolder {
  readonly path: string;
  readonly #remove = () => rmSync(this.path, { recursive: true, force: true, maxRetries: 3 });

  /** @param purpose stands in its name */
  constructor(purpose: string) {
    this.path = mkdtempSync(join(tmpdir(), `yukkuri-${purpose}-`));
    process.on('exit', this.#remove);
  }

  remove(): void {
    process.off('exit', this.#remove);
    this.#remove();
  }
}
