import picomatch from 'picomatch';
import { checks } from '../core/checks/index.js';
import { filterRun, type RunFilter } from '../core/reporting/filter-run.js';
import type { Run } from '../core/run/index.js';
import { unknown } from './configuration/names.js';
import { UsageError } from './errors.js';
import { readSavedRun } from './saved-run.js';

interface FilterFlags {
  page?: string[] | undefined;
  check?: string[] | undefined;
}

/**
 * Reads a saved run as far as a reader asks for it.
 * @throws {UsageError} for a check that there is not, or a file that is no run
 */
export async function readFiltered(file: string, flags: FilterFlags): Promise<Run> {
  const filter = filterOf(flags);
  return filterRun(await readSavedRun(file), filter);
}

function filterOf({ page, check }: FilterFlags): RunFilter {
  const ids = checks.map(({ id }) => id);
  for (const id of check ?? [])
    if (!ids.includes(id)) throw new UsageError(`--check ${id}: ${unknown(id, ids, 'check')}`);
  const patterns = (page ?? []).flatMap((pattern) =>
    pattern.endsWith('/') && pattern !== '/' ? [pattern, `${pattern}**`] : [pattern],
  );
  return {
    ...(page ? { wantsPage: picomatch(patterns, { dot: true }) } : {}),
    ...(check ? { checks: check } : {}),
  };
}
