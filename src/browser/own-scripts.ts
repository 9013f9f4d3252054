import { readFileSync } from 'node:fs';

const scripts = new Map<string, string>();

/** A script of ours that runs in pages. */
export function readScript(name: 'in-page' | 'page-timers'): string {
  const known = scripts.get(name) ?? readFileSync(new URL(`./${name}.js`, import.meta.url), 'utf8');
  scripts.set(name, known);
  return known;
}
