import { pagesOf } from '../core/mending/layout-changes.js';
import type { Mended } from '../core/mending/mended.js';
import { prove, type Proof } from '../core/mending/proof.js';
import type { Run } from '../core/run/index.js';
import { withPages, type Site } from '../site/index.js';
import { audit, compareLayouts, type AuditOptions, type Progress } from '../survey/index.js';

export interface MendedCopy {
  site: Site;
  copy: Site;
  /** The run that promised. */
  run: Readonly<Run>;
  mended: Mended;
  /** Whether files may weigh less than was promised. */
  lighterIsKept: boolean;
}

/** Audits a mended copy, on the screens of the run, compares its pages with the site's, and holds what was promised against what is. */
export async function proveCopy(
  { site, copy, run, mended, lighterIsKept }: MendedCopy,
  options: AuditOptions,
  progress: Progress,
): Promise<Proof> {
  // Of other pages nothing was promised.
  const promised = withPages(copy, new Set(run.pages.map(({ path }) => path)));
  // What a browser downloads is to be seen, not read.
  const again = await audit(promised, { ...options, everyPage: true, screens: run.screens }, progress);
  const layouts = await compareLayouts([site, copy], pagesOf(mended.fixes), options, progress);
  const unmade = new Map(
    mended.files.flatMap(({ name, problem }) => (problem === null ? [] : [[name, problem] as const])),
  );
  return prove(run, again.run, { fixes: mended.fixes, layouts, unmade, lighterIsKept });
}
