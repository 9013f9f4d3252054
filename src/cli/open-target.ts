import { isAddress, openAddresses, openFolder, type Site } from '../site/index.js';
import type { Progress } from '../survey/index.js';
import { toolVersion } from '../version.js';
import { UsageError } from './errors.js';
import type { TargetFlags } from './target-options.js';

export interface OpenFlags extends TargetFlags {
  page?: readonly string[] | undefined;
  otherHosts?: boolean | undefined;
  atOnce?: number | undefined;
}

/** Told while pages are looked for. */
export interface Finding {
  progress?: Progress;
  interrupted?: AbortSignal | undefined;
}

/** Options that only a site at an address has. */
const liveOnly = {
  sitemap: '--sitemap',
  follow: '--follow',
  cookies: '--cookies',
  mostPages: '--most-pages',
  pause: '--pause',
} as const;
const liveLists = { skip: '--skip', keep: '--keep', header: '--header' } as const;

/**
 * Opens what is to be audited: a folder, or a site at one or several addresses.
 * @throws {SiteError} when there is nothing to audit; {UsageError} for options that do not fit
 */
export async function openTarget(
  targets: readonly string[],
  flags: OpenFlags,
  finding: Finding = {},
): Promise<Site> {
  const [first = ''] = targets;
  return targets.some(isAddress)
    ? openLiveSite(targets, flags, finding)
    : openOneFolder(first, targets, flags);
}

function openOneFolder(folder: string, targets: readonly string[], flags: OpenFlags): Promise<Site> {
  if (targets.length > 1)
    throw new UsageError(
      `One audit is of one folder; got ${targets.length}: ${targets.join(', ')}. Several addresses of one site may be given.`,
    );
  const wrong = [
    ...Object.entries(liveOnly).flatMap(([name, option]) =>
      flags[name as keyof typeof liveOnly] === undefined ? [] : [option],
    ),
    ...Object.entries(liveLists).flatMap(([name, option]) =>
      flags[name as keyof typeof liveLists].length === 0 ? [] : [option],
    ),
  ];
  if (wrong.length > 0)
    throw new UsageError(
      `${wrong.join(' and ')} ${wrong.length === 1 ? 'is' : 'are'} for sites at an address; "${folder}" is a folder.`,
    );
  const { basePath, page, fallback, otherHosts = false, allow } = flags;
  return openFolder(folder, {
    ...(basePath === undefined ? {} : { basePath }),
    ...(page === undefined ? {} : { pages: page }),
    ...(fallback === undefined ? {} : { fallback }),
    ...(flags.headers === undefined ? {} : { headers: flags.headers }),
    otherHosts,
    hosts: allow,
    toolVersion,
  });
}

function openLiveSite(
  targets: readonly string[],
  flags: OpenFlags,
  { progress, interrupted }: Finding,
): Promise<Site> {
  if (flags.fallback !== undefined || flags.headers !== undefined)
    throw new UsageError(
      `${flags.headers === undefined ? '--fallback' : '--headers'} is for folders: a server answers by itself.`,
    );
  const { basePath, page, sitemap, follow, skip, keep, mostPages, header, cookies, pause, atOnce, allow } =
    flags;
  return openAddresses(targets, {
    ...(basePath === undefined ? {} : { basePath: `/${basePath}/`.replace(/\/{2,}/g, '/') }),
    ...(page === undefined ? {} : { pages: page }),
    ...(sitemap === undefined ? {} : { sitemap }),
    ...(follow === undefined ? {} : { follow: follow === true ? Number.POSITIVE_INFINITY : Number(follow) }),
    skip,
    keep,
    ...(mostPages === undefined ? {} : { mostPages }),
    ignoreRobots: flags.ignoreRobots,
    headers: header,
    ...(cookies === undefined ? {} : { cookies }),
    insecure: flags.insecure,
    ...(pause === undefined ? {} : { pauseMs: pause }),
    ...(atOnce === undefined ? {} : { atOnce }),
    hosts: allow,
    toolVersion,
    ...(progress ? { progress } : {}),
    ...(interrupted ? { signal: interrupted } : {}),
  });
}
