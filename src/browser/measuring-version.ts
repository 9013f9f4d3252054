import { createHash } from 'node:crypto';
import { readdir } from 'node:fs/promises';
import { homedir } from 'node:os';
import { basename, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readScript } from './own-scripts.js';
import { sharedFonts } from './packaged.js';

/** Raised when visits or sweeps see something else, or put it down in another way. */
const method = 11;

/** Where a user keeps fonts. */
const ownFonts = ['.fonts', '.local/share/fonts', 'Library/Fonts'].map((place) => join(homedir(), place));

/**
 * Tells what was measured in pages apart from what another way of measuring, or another machine, would have measured: our scripts in the
 * page, the module that this stands in (the bundled program names it by its content), and the fonts that text is laid out with.
 */
export async function measuringVersion(): Promise<string> {
  const fonts = await Promise.all([...sharedFonts, ...ownFonts].map(namesIn));
  const parts = [
    method,
    basename(fileURLToPath(import.meta.url)),
    readScript('in-page'),
    readScript('page-timers'),
    process.platform,
    process.arch,
    ...fonts,
  ];
  return createHash('sha256').update(JSON.stringify(parts)).digest('hex');
}

async function namesIn(folder: string): Promise<string[]> {
  const names = await readdir(folder, { recursive: true }).catch(() => []);
  return names.sort();
}
