import { count, group } from '../core/wording/words.js';
import type { Run } from '../core/run/index.js';

/** How many visits were not made because they would see what was seen before; undefined where all were made. */
export function rememberedInWords({ meta: { looks } }: Readonly<Run>): string | undefined {
  const { made = 0, remembered = 0 } = looks?.['visit'] ?? {};
  if (remembered === 0) return undefined;
  const all = made + remembered;
  const which =
    made > 0
      ? `${group(remembered)} of ${count(all, 'visit')}`
      : all === 1
        ? 'the visit'
        : `all ${count(all, 'visit')}`;
  return `Seen before: nothing that ${which} would see has changed since ${remembered === 1 ? 'it was' : 'they were'} made. --fresh makes ${all === 1 ? 'it' : 'them all'} anew.`;
}
