import { lstatSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BrowserError } from './errors.js';

/** What a program left that was killed goes after so long, ms: another one may run where its number cannot be seen from here. */
const abandonedAfterMs = 24 * 3600 * 1000;

/** A folder that is there until it is removed, or the program ends, whichever comes first. */
export class TemporaryFolder {
  readonly path: string;
  readonly #remove = () => rmSync(this.path, { recursive: true, force: true, maxRetries: 3 });

  /**
   * @param purpose stands in its name
   * @throws {BrowserError} where none can be made
   */
  constructor(purpose: string) {
    removeAbandoned(purpose);
    try {
      this.path = mkdtempSync(join(tmpdir(), `yukkuri-${purpose}-${process.pid}-`));
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

/** Removes folders of the user’s own programs that ended long ago without a chance to do it. */
function removeAbandoned(purpose: string): void {
  const name = new RegExp(`^yukkuri-${purpose}-(\\d+)-`);
  try {
    for (const entry of readdirSync(tmpdir())) {
      const id = Number(name.exec(entry)?.[1] ?? Number.NaN);
      if (Number.isNaN(id) || isRunning(id)) continue;
      const path = join(tmpdir(), entry);
      const found = lstatSync(path);
      const own = found.isDirectory() && found.uid === process.getuid?.();
      if (own && Date.now() - found.mtimeMs > abandonedAfterMs)
        rmSync(path, { recursive: true, force: true });
    }
  } catch {
    // Whatever cannot be read or removed stays.
  }
}

function isRunning(id: number): boolean {
  try {
    process.kill(id, 0);
    return true;
  } catch (cause) {
    // Of another user, it may not be asked; it runs all the same.
    return (cause as NodeJS.ErrnoException).code === 'EPERM';
  }
}
