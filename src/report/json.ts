import type { Run } from '../core/run/index.js';

/** The run as JSON text: the same run gives the same bytes. Control characters are escaped by JSON itself. */
export function runAsJson(run: Readonly<Run>): string {
  return `${JSON.stringify(run, null, 1)}\n`;
}
