import { readdir, readFile } from 'node:fs/promises';

/** Processes that were started with a place for temporary files. */
export async function processesOf(temporary: string): Promise<string[]> {
  const found: string[] = [];
  for (const id of (await readdir('/proc')).filter((name) => /^\d+$/.test(name))) {
    const environment = await readFile(`/proc/${id}/environ`, 'utf8').catch(() => '');
    const state = await readFile(`/proc/${id}/stat`, 'utf8').catch(() => '');
    if (environment.includes(`TMPDIR=${temporary}`) && !/\) Z /.test(state)) found.push(state.slice(0, 40));
  }
  return found;
}
