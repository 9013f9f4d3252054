import type { PageAccess, Preparation } from '../browser/index.js';
import type { Site } from '../site/index.js';
import type { LookWatch } from './page-memory.js';
import { SiteUrls } from './site-urls.js';

export interface AccessOptions {
  /** Whether a page of a folder may ask other hosts. */
  allowOtherHosts: boolean;
  /** What is done with each page before it is looked at. */
  prepare?: Preparation;
}

/**
 * What pages of a site may ask for, and who answers them.
 * @param watch is told what is asked for in one look
 */
export function accessTo(
  site: Site,
  { allowOtherHosts, prepare }: AccessOptions,
  watch?: Pick<LookWatch, 'onAnswered'>,
): PageAccess {
  const urls = new SiteUrls(site.origin);
  const { network } = site;
  if (!network) return { allows: (url) => allowOtherHosts || urls.staysHere(url), prepare };
  return {
    allows: (url) => urls.staysHere(url) || network.allows(url),
    answer: (request) => {
      if (!network.covers(request.url)) return undefined;
      watch?.onAnswered(request);
      return network.answer(request);
    },
    cookies: network.cookies && [...network.cookies],
    prepare,
  };
}

/** What a browser may reach that looks at sites: what no page's log shows as well. */
export function reachTo(sites: readonly Site[], { allowOtherHosts }: Pick<AccessOptions, 'allowOtherHosts'>) {
  const everywhere = allowOtherHosts && sites.every(({ network }) => network === undefined);
  const each = sites.map(({ origin, network }) => ({ urls: new SiteUrls(origin), network }));
  return {
    allows: (url: string) =>
      everywhere ||
      each.some(({ urls, network }) => urls.staysHere(url) || (network?.allowsUnseen(url) ?? false)),
    everywhere,
  };
}
