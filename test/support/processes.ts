import { readdir, readFile } from 'node:fs/promises';
import { setTimeout as wait } from 'node:timers/promises';

/** Processes that were started with a place for temporary files. */
async function processesOf(temporary: string): Promise<string[]> {
  const found: string[] = [];
  for (const id of (await readdir('/proc')).filter((name) => /^\d+$/.test(name))) {
    const environment = await readFile(`/proc/${id}/environ`, 'utf8').catch(() => '');
    const state = await readFile(`/proc/${id}/stat`, 'utf8').catch(() => '');
    if (environment.includes(`TMPDIR=${temporary}`) && !/\) Z /.test(state)) found.push(state.slice(0, 40));
  }
  return found;
}

/** Those that are still there after a while: what was killed takes its time to go on a busy machine. */
export async function processesLeft(temporary: string, patienceMs = 5000): Promise<string[]> {
  let left = await processesOf(temporary);
  for (let waited = 0; waited < patienceMs && left.length > 0; waited += 100) {
    await wait(100);
    left = await processesOf(temporary);
  }
  return left;
}

/** Ids of the browsers that a process started itself. */
export async function browsersOf(parent: number): Promise<number[]> {
  const ids = (await readdir('/proc')).filter((name) => /^\d+$/.test(name)).map(Number);
  const children: number[] = [];
  for (const id of ids) {
    const status = await readFile(`/proc/${id}/status`, 'utf8').catch(() => '');
    if (new RegExp(`^PPid:\\t${parent}$`, 'm').test(status) && /^Name:\tchrom/m.test(status))
      children.push(id);
  }
  return children;
}
