import { asJson } from './as-json.js';
import type { Run } from '../core/run/index.js';

/** The run as JSON text: the same run gives the same bytes. Control characters are escaped by JSON itself. */
export function runAsJson(run: Readonly<Run>): string {
  return asJson(run);
}
