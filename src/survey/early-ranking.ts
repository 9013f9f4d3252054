import { Faults } from '../core/judging/faults.js';
import type { Check } from '../core/judging/check.js';
import type { World } from '../core/judging/facts.js';
import { writeFixes } from '../core/judging/fixes.js';
import { judge } from '../core/judging/judge.js';

/** A fix as it ranks before all is measured. */
export interface EarlyFix {
  title: string;
  /** Expected bytes of an average visit. */
  saves: number;
  /** Whether files that it makes are estimated, not encoded. */
  isEstimate: boolean;
}

/** So many are told. */
const most = 5;

/** The fixes that save most as far as is known by now. What fails here fails again when all is known, and is told then. */
export function rankEarly(checks: readonly Check[], world: World): EarlyFix[] {
  try {
    const { fixes } = writeFixes(judge(checks, { ...world, faults: new Faults() }));
    return fixes
      .filter(({ saves }) => saves.expected > 0)
      .slice(0, most)
      .map(({ title, saves, files }) => ({
        title,
        saves: saves.expected,
        isEstimate: files.some(({ error }) => error > 0),
      }));
  } catch {
    return [];
  }
}
