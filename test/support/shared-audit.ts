import { auditRun, siteOf } from './program.js';
import type { Run } from '../../src/core/run/index.js';

type Files = Record<string, string | Buffer>;

/**
 * Small sites of several tests, audited in one run of the program, each in a folder of its own. What depends on all pages (shares of visits,
 * totals, the order of fixes) is not what a site of its own would have: tests of that audit alone.
 */
export function sharedAudit(...options: string[]): (files: () => Promise<Files>) => () => Promise<Run> {
  const sites: (() => Promise<Files>)[] = [];
  let run: Promise<Run> | undefined;
  const nameOf = (index: number) => `site-of-test-${index}`;

  async function auditAll(): Promise<Run> {
    const parts = await Promise.all(
      sites.map(async (files, index) =>
        Object.entries(await files()).map(
          ([name, content]) => [`${nameOf(index)}/${name}`, content] as const,
        ),
      ),
    );
    return auditRun(await siteOf(Object.fromEntries(parts.flat())), ...options);
  }

  return (files) => {
    const name = nameOf(sites.push(files) - 1);
    return async () => partOf(await (run ??= auditAll()), name);
  };
}

/** What a run says of one folder, as if nothing stood beside it. */
function partOf(run: Run, name: string): Run {
  const path = `/${name}/`;
  const inside = ({ page }: { page: string }) => page.startsWith(path);
  const own = {
    ...run,
    pages: run.pages.filter((page) => page.path.startsWith(path)),
    placements: run.placements.filter(inside),
    files: run.files.filter(({ url }) => url.startsWith(path)),
    findings: run.findings.filter(({ placement }) => placement.startsWith(path)),
    fixes: run.fixes.filter(({ pages }) => pages.some((page) => page.startsWith(path))),
    sweeps: run.sweeps.filter(({ placement }) => placement.startsWith(path)),
    incomplete: run.incomplete.filter(inside),
    redirected: run.redirected.filter(inside),
    refused: run.refused.filter(({ pages }) => pages.some((page) => page.startsWith(path))),
  };
  return JSON.parse(JSON.stringify(own).replaceAll(path, '/').replaceAll(path.slice(1), '')) as Run;
}
