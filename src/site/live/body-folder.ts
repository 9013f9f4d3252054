import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Where bodies lie while an audit needs them: until they are removed or the program ends, whichever comes first. */
export class BodyFolder {
  readonly path = mkdtempSync(join(tmpdir(), `yukkuri-received-${process.pid}-`));
  readonly #remove = () => rmSync(this.path, { recursive: true, force: true, maxRetries: 3 });

  constructor() {
    process.on('exit', this.#remove);
  }

  remove(): void {
    process.off('exit', this.#remove);
    this.#remove();
  }
}
